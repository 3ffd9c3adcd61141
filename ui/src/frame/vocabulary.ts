import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from './ask'

type Term = Pick<Schemas['Term'], 'id' | 'words'>

/** The characters and the words of the record, as the book says them; fetched once. */
export const useVocabulary = defineStore('vocabulary', () => {
  const words = ref<Schemas['Vocabulary'] | null>(null)
  const { wrong, ask } = useAsk()

  async function load() {
    const { data } = await ask(api.GET('/api/vocabulary'))
    if (data) words.value = data
  }

  const ready = computed(() => words.value !== null)
  const characters = computed(() => {
    const all = new Map<string, Schemas['Character']>()
    for (const s of words.value?.sections ?? []) for (const c of s.characters ?? []) all.set(c.id, c)
    return all
  })
  const sections = computed(() => new Map((words.value?.sections ?? []).map((s) => [s.id, s])))
  const taxa = computed(() => (words.value?.names ?? []).filter((n) => n.rank === 'species'))
  const statuses = computed(() => words.value?.statuses ?? [])

  /** How a word of the record is said; one that is not known stands for itself. */
  const say = (terms: Term[] | null | undefined, id: string) => terms?.find((t) => t.id === id)?.words ?? id
  const status = (id: string) => statuses.value.find((s) => s.id === id)
  const characterName = (id: string) => characters.value.get(id)?.name ?? id

  return { words, wrong, ready, characters, sections, taxa, statuses, load, say, status, characterName }
})

/** A region or a list as one value of a select, and back. */
export interface Among {
  region: string
  list?: string
}
export const amongKey = (a: Among) => `${a.region}\n${a.list ?? ''}`
export function amongOf(key: string): Among {
  const [region, list] = key.split('\n')
  return list ? { region, list } : { region }
}
