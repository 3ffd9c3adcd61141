import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, type Character, type Desk } from '../api/client'

/** The characters, states and words, fetched once. */
export const useDesk = defineStore('desk', () => {
  const desk = ref<Desk | null>(null)
  const error = ref('')

  async function load() {
    error.value = ''
    try {
      const { data, response } = await api.GET('/api/desk')
      if (data) desk.value = data
      else error.value = `it answered ${response.status}`
    } catch {
      error.value = 'no connection'
    }
  }

  const ready = computed(() => desk.value !== null)
  const characters = computed(() => {
    const all = new Map<string, Character>()
    for (const s of desk.value?.sections ?? []) for (const c of s.characters ?? []) all.set(c.id, c)
    return all
  })
  const taxa = computed(() => new Map((desk.value?.taxa ?? []).map((t) => [t.name, t])))

  /** The everyday name of a taxon, by its scientific one. */
  function english(name: string): string {
    if (name === 'unlisted') return 'something not listed'
    return taxa.value.get(name)?.english?.[0] ?? name
  }

  return { desk, error, ready, characters, taxa, load, english }
})
