import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, type Found, type TaxonLine } from '../api/client'
import { useAsk } from '../frame/ask'
import type { Among } from '../frame/vocabulary'

/** A state that trees are filtered by. */
export interface Shown {
  character: string
  state: string
}

/** What is being browsed in the flora: whose trees, which of them, and the names that were searched for. */
export const useFlora = defineStore('flora', () => {
  const among = ref<Among>({ region: '' }) // empty: the home region
  const shown = ref<Shown[]>([])
  const taxa = ref<TaxonLine[]>([])
  const query = ref('')
  const found = ref<Found | null>(null)
  const { wrong, ask } = useAsk()
  const names = useAsk()

  async function load() {
    const { data } = await ask(
      api.GET('/api/flora/taxa', { params: { query: { ...among.value, show: shown.value.map((s) => `${s.character}:${s.state}`) } } }),
    )
    if (data) taxa.value = data
  }

  async function search() {
    const q = query.value.trim()
    if (!q) {
      found.value = null
      return
    }
    const { data } = await names.ask(api.GET('/api/flora/names', { params: { query: { q } } }))
    if (data) found.value = data
  }

  function show(s: Shown) {
    shown.value = [...shown.value.filter((o) => o.character !== s.character), s]
    return load()
  }

  function drop(character: string) {
    shown.value = shown.value.filter((o) => o.character !== character)
    return load()
  }

  return { among, shown, taxa, query, found, wrong, load, search, show, drop }
})
