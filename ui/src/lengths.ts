/** What a person wrote for a measurement: one reading or several, in one unit. */
export interface Readings {
  values: number[]
  unit?: string // as written, where it was
  pencil?: boolean // held against a pencil
}

/** A pencil is about 7 mm through (common practice): it divides slender twigs from stout. */
export const pencilMm = 7

const units: Record<string, string> = { mm: 'mm', cm: 'cm', m: 'm', in: 'in', inch: 'in', inches: 'in', '"': 'in', '″': 'in', ft: 'ft', feet: 'ft', foot: 'ft', "'": 'ft', '′': 'ft' }

/** Reads "6.5", "6,5", "1/4 in", "3 1/2", "5; 6; 5.5", "a pencil", "half a pencil"; null for what is none of these. */
export function readLength(text: string): Readings | null {
  const t = text.trim().toLowerCase()
  const pencil = /^(?:(half|twice) )?(?:a|1) pencil$/.exec(t) ?? /^(half|twice)? ?pencil$/.exec(t)
  if (pencil) return { values: [pencilMm * (pencil[1] === 'half' ? 0.5 : pencil[1] === 'twice' ? 2 : 1)], unit: 'mm', pencil: true }
  const values: number[] = []
  let unit: string | undefined
  for (const part of t.split(/;|,\s+/).map((p) => p.trim()).filter(Boolean)) {
    const m = /^(?:(\d+(?:[.,]\d+)?)(?:[ -](\d+)\/(\d+))?|(\d+)\/(\d+))\s*([a-z"'″′]*)$/.exec(part)
    if (!m || (m[6] && !units[m[6]])) return null
    const value = m[4] ? Number(m[4]) / Number(m[5]) : Number(m[1].replace(',', '.')) + (m[2] ? Number(m[2]) / Number(m[3]) : 0)
    if (!Number.isFinite(value) || value <= 0) return null
    if (m[6] && unit && units[m[6]] !== unit) return null // two units in one row
    unit = m[6] ? units[m[6]] : unit
    values.push(value)
  }
  return values.length > 0 ? { values, unit } : null
}

export const mean = (values: number[]): number => values.reduce((a, b) => a + b, 0) / values.length

/** The sample standard deviation, or 0 of one reading. */
export function spread(values: number[]): number {
  if (values.length < 2) return 0
  const m = mean(values)
  return Math.sqrt(values.reduce((a, v) => a + (v - m) ** 2, 0) / (values.length - 1))
}

/** A number as it is read off: three figures, no trailing zeros. */
export const figures = (x: number): number => Number(x.toPrecision(3))
