import { computed } from 'vue'
import { useSettings } from '../frame/settings'
import { useVocabulary } from '../frame/vocabulary'

export type What = 'twig' | 'bark' | 'outline' | 'fruit' | 'leaf'

/** Which drawing of a taxon; odd 0 is the usual one, else which specimen. */
export interface Drawing {
  what: What
  taxon: string
  region?: string
  age?: string
  zone?: string
  odd?: number
  marked?: string[]
}

function query(values: Record<string, string | number | undefined>, marked: string[] = []): string {
  const q = new URLSearchParams()
  for (const [name, value] of Object.entries(values)) if (value) q.set(name, String(value))
  for (const m of marked) q.append('mark', m)
  return q.size ? `?${q}` : ''
}

const enc = encodeURIComponent

/** A drawing of a taxon; digest stands for all that it is made from. */
export const plateAddress = (d: Drawing, digest: string, theme: string) =>
  `/api/plates/${digest}/${d.what}/${enc(d.taxon)}` +
  query({ region: d.region, age: d.age, zone: d.what === 'bark' ? d.zone : undefined, odd: d.odd, theme }, d.marked)

/** A state of a character, drawn small. */
export const stateAddress = (character: string, state: string, digest: string, theme: string) =>
  `/api/plates/${digest}/states/${enc(character)}/${enc(state)}${query({ theme })}`

/** A tree of the book as it was scored, up to its last entry. */
export const scoredAddress = (tree: string, what: What, last: string, theme: string, marked?: string[]) =>
  `/api/trees/${tree}/plates/${what}${query({ last, theme }, marked)}`

/** What stands in the addresses of drawings here and now. */
export function useDrawings() {
  const vocabulary = useVocabulary()
  const settings = useSettings()
  const digest = computed(() => vocabulary.words?.plates ?? '')
  const theme = computed(() => settings.shown)
  return { digest, theme }
}
