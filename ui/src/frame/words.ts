/** Figures and days as people here write them. What is said of trees comes with the answers. */
export const capital = (s: string): string => s.charAt(0).toUpperCase() + s.slice(1)

/** A chance as it is read aloud: 0.987 is 99 %, and nothing is 0 % or 100 %. */
export function percent(p: number): string {
  if (p > 0.99 && p < 1) return '>99 %'
  if (p > 0 && p < 0.01) return '<1 %'
  return `${Math.round(p * 100)} %`
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
