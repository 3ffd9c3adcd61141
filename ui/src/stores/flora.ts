import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, problemLines, type Found, type TaxonLine } from '../api/client'

/** A state that trees are filtered by. */
export interface Shown {
  character: string
  state: string
}

/** What is being browsed in the flora: whose trees, which of them, and the names that were searched for. */
export const useFlora = defineStore('flora', () => {
  const pool = ref('eastern-north-america')
  const shown = ref<Shown[]>([])
  const taxa = ref<TaxonLine[]>([])
  const query = ref('')
  const found = ref<Found | null>(null)
  const error = ref('')
  let asked = 0

  async function load() {
    const mine = ++asked
    error.value = ''
    try {
      const { data, error: problem } = await api.GET('/api/flora/taxa', {
        params: { query: { pool: pool.value, show: shown.value.map((s) => `${s.character}:${s.state}`) } },
      })
      if (mine !== asked) return
      if (data) taxa.value = data
      if (problem) error.value = problemLines(problem).join(' ')
    } catch {
      error.value = 'No connection to the book.'
    }
  }

  async function search() {
    const q = query.value.trim()
    if (!q) {
      found.value = null
      return
    }
    try {
      const { data } = await api.GET('/api/flora/names', { params: { query: { q } } })
      if (q === query.value.trim()) found.value = data ?? null
    } catch {
      error.value = 'No connection to the book.'
    }
  }

  function show(s: Shown) {
    shown.value = [...shown.value.filter((o) => o.character !== s.character), s]
    return load()
  }

  function drop(character: string) {
    shown.value = shown.value.filter((o) => o.character !== character)
    return load()
  }

  return { pool, shown, taxa, query, found, error, load, search, show, drop }
})
