import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { ulid } from 'ulid'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { useSession } from '../frame/session'

/** What is practised: all trees of a region or list, or a deck that was kept. */
export const useDecks = defineStore('decks', () => {
  const all = ref<Schemas['KeptDeck'][]>([])
  const chosen = useLocalStorage('palethicket.practice.deck', '')
  const setting = ref(false)
  const session = useSession()
  const by = computed(() => (session.name ? { by: session.name } : {}))
  const { wrong, busy, ask } = useAsk({ typed: true })
  const list = useAsk()

  async function load() {
    const { data } = await list.ask(api.GET('/api/practice/decks', { params: { query: by.value } }))
    if (!data) return
    all.value = data
    if (chosen.value && !data.some((d) => d.id === chosen.value)) chosen.value = ''
  }

  async function put(deck: Omit<Schemas['KeptDeck'], 'id'>): Promise<boolean> {
    const id = ulid()
    const { ok } = await ask(api.PUT('/api/practice/decks', { body: { ...deck, id, ...by.value } }))
    if (!ok) return false
    await load()
    chosen.value = id
    return true
  }

  async function drop(id: string) {
    await ask(api.DELETE('/api/practice/decks/{id}', { params: { path: { id }, query: by.value } }))
    await load()
  }

  return { all, chosen, setting, wrong, busy, load, put, drop }
})
