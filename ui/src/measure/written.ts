import type { Schemas } from '../api/client'

type Kind = Schemas['SumInput']['kind']

const list = (text: string) =>
  text
    .split(';')
    .map((t) => t.trim())
    .filter(Boolean)
/** Latitude and longitude as people write them, as the pair that the book takes; what is none goes as it is, to be refused. */
const place = (text: string) => {
  const [lat, lon] = text.split(',').map((t) => Number(t.trim()))
  return Number.isFinite(lat) && Number.isFinite(lon) ? [lon, lat] : text
}
const number = (text: string) => (Number.isFinite(Number(text.replace(',', '.'))) ? Number(text.replace(',', '.')) : text)

const units: Partial<Record<Kind, string>> = { length: 'm', lengths: 'cm', slope: '%' }
/** Whether figures alone were typed. */
export const bare = (text: string) => /^[-+\d.,/\s]+$/.test(text)
/** The unit that was written last in a text. */
export const unitOf = (text: string) => /([a-z%°"'″′’”]+)\s*$/i.exec(text)?.[1] ?? ''
export const usualUnit = (kind: Kind) => units[kind] ?? ''

/** What was typed for an input as the book takes it: figures alone get the unit that was used last. */
export function written(kind: Kind, text: string, unit: string): unknown {
  const whole = (t: string) => (unit && bare(t) ? `${t} ${unit}` : t)
  switch (kind) {
    case 'number':
    case 'count':
      return number(text)
    case 'numbers':
    case 'counts':
      return list(text).map(number)
    case 'lengths':
      return list(text).map(whole)
    case 'place':
      return place(text)
    case 'places':
      return list(text).map(place)
    case 'length':
    case 'slope':
      return whole(text.trim())
    case 'percents':
      return bare(text) ? `${text.trim()} %` : text.trim()
    default:
      return text.trim()
  }
}

/** What the book keeps of an input, as it was typed. */
export function typedAs(kind: Kind, raw: unknown): string {
  const latLon = (p: unknown) => (Array.isArray(p) ? `${p[1]}, ${p[0]}` : String(p))
  if (kind === 'place') return latLon(raw)
  if (kind === 'places' && Array.isArray(raw)) return raw.map(latLon).join('; ')
  return Array.isArray(raw) ? raw.join('; ') : String(raw)
}
