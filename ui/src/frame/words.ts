/** Figures and days as people here write them. What is said of trees comes with the answers. */
export const capital = (s: string): string => s.charAt(0).toUpperCase() + s.slice(1)

/** A chance as it is read aloud: 0.987 is 98 %, as a chance below a bar never reads as the bar, and nothing is 0 % or 100 %. */
export function percent(p: number): string {
  if (p > 0.99 && p < 1) return '>99 %'
  if (p > 0 && p < 0.01) return '<1 %'
  return `${Math.floor(p * 100 + 1e-9)} %`
}

/** Seconds as a person says them. */
export const seconds = (n: number): string => (n < 60 ? `${Math.round(n)} s` : `${Math.round(n / 60)} min`)

/** A day as people here write it. */
export function dayWords(day: string): string {
  const date = day.length === 10 ? new Date(`${day}T12:00`) : new Date(day)
  return date.toLocaleDateString(undefined, { day: 'numeric', month: 'short', year: 'numeric' })
}

/** A figure with few digits. */
export const figure = (x: number, digits = 1): string => x.toLocaleString(undefined, { maximumFractionDigits: digits })

/** The time of day of a moment. */
export const clock = (at: string): string => new Date(at).toLocaleTimeString(undefined, { hour: '2-digit', minute: '2-digit' })

/** The time of day of a moment where it was: as it is written, whatever this device's own zone is. */
export const clockThere = (at: string): string => at.slice(11, 16)

/** A count with its word. */
export const count = (n: number, one: string, many = `${one}s`): string => `${figure(n, 0)} ${n === 1 ? one : many}`

export const entries = (n: number): string => count(n, 'entry', 'entries')

/** What a look is expected to tell, from its bits: one bit halves what is open. */
export function worth(bits: number): string {
  if (bits < 0.3) return 'tells little'
  if (bits < 0.75) return 'narrows it'
  if (bits < 1.5) return 'halves what is open'
  if (bits < 2.5) return 'leaves a quarter open'
  return 'leaves little open'
}

/** How much likelier bits make one of two, as people say it. */
export function times(bits: number): string {
  const x = 2 ** Math.abs(bits)
  return x > 1000 ? 'more than 1 000 times' : x >= 10 ? `${Math.round(x)} times` : `${figure(x)} times`
}
