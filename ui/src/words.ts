import type { Character, Score } from './api/client'

/** An id in words: "long-loose-plates" is "long loose plates". */
export const plain = (id: string): string => id.replaceAll('-', ' ')

export const capital = (s: string): string => s.charAt(0).toUpperCase() + s.slice(1)

const fromWords: Record<string, string> = {
  site: 'Site', tree: 'This tree', crown: 'Crown', fallen: 'Fallen twig', sapling: 'Sapling beside it', litter: 'Ground below',
}
const fromHints: Record<string, string> = {
  site: 'the land it stands in', tree: 'trunk, or a twig traced to it', crown: 'from below or through glasses',
  fallen: 'picked up beneath it', sapling: 'taken as its kind', litter: 'leaves and fruit on the ground',
}
const sectionWords: Record<string, string> = {
  setting: 'Site', form: 'Outline', bark: 'Bark', twig: 'Twig', bud: 'Buds', scar: 'Scars', fruit: 'Fruit',
  ground: 'On the ground', needle: 'Needles', sign: 'Signs',
}

export const fromWord = (id: string): string => fromWords[id] ?? plain(id)
export const fromHint = (id: string): string => fromHints[id] ?? ''
export const sectionWord = (id: string): string => sectionWords[id] ?? plain(id)

const regionWords: Record<string, string> = { 'eastern-north-america': 'eastern North America', 'british-isles': 'the British Isles' }
export const regionWord = (id: string): string => regionWords[id] ?? id

/** A chance as it is read aloud: 0.987 is 99 %, and nothing is 0 % or 100 %. */
export function percent(p: number): string {
  if (p > 0.99 && p < 1) return '>99 %'
  if (p > 0 && p < 0.01) return '<1 %'
  return `${Math.round(p * 100)} %`
}

/** What a score says, in a few words. */
export function scoreWords(s: Score, c: Character | undefined): string {
  const zone = s.zone && s.zone !== 'breast' ? ` (${s.zone})` : ''
  if (s.nodes) return `${s.pairs} pairs in ${s.nodes} nodes`
  if (s.states?.length) return s.states.map(plain).join(' or ') + zone
  if (s.seen !== undefined) return s.seen ? 'seen' : 'looked, not seen'
  if (s.value !== undefined) {
    const times = (s.readings ?? 1) > 1 ? `, mean of ${s.readings}` : ''
    return `${s.value} ${s.unit || c?.unit || ''}${times}`
  }
  return ''
}

/** Seconds as a person says them. */
export const seconds = (n: number): string => (n < 60 ? `${n} s` : `${Math.round(n / 60)} min`)

/** What a tree's status means, each with a sign of its own, so that nothing is said by colour alone. */
export const statuses = [
  { id: 'named', label: 'Named', sign: '●' },
  { id: 'ready', label: 'Ready to name', sign: '◐' },
  { id: 'doubtful', label: 'In doubt', sign: '◆' },
  { id: 'open', label: 'Not settled', sign: '○' },
  { id: 'unscored', label: 'Not scored', sign: '·' },
] as const
export type StatusID = (typeof statuses)[number]['id']
export const statusOf = (id: string) => statuses.find((s) => s.id === id) ?? statuses[3]

/** A day as people here write it. */
export function dayWords(day: string): string {
  const date = day.length === 10 ? new Date(`${day}T12:00`) : new Date(day)
  return date.toLocaleDateString(undefined, { day: 'numeric', month: 'short', year: 'numeric' })
}

/** A figure with few digits. */
export const figure = (x: number, digits = 1): string => x.toLocaleString(undefined, { maximumFractionDigits: digits })
