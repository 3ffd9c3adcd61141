import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { useSession } from '../frame/session'

/** A walk through a wood that does not exist: what is looked at, and, once it is ended, how it went. */
export const usePracticeWalk = defineStore('walk', () => {
  const all = ref<Schemas['PracticeWalk'][]>([])
  const walk = ref<Schemas['PracticeWalk'] | null>(null)
  const account = ref<Schemas['WalkAccount'] | null>(null)
  const session = useSession()
  const by = computed(() => (session.name ? { by: session.name } : {}))
  const { wrong, busy, ask } = useAsk({ typed: true })
  const at = (id: string) => ({ path: { id }, query: by.value })

  async function list() {
    all.value = (await ask(api.GET('/api/practice/walks', { params: { query: by.value } }))).data ?? []
  }

  async function begin(of: Schemas['NewPracticeWalk']): Promise<string> {
    const { data } = await ask(api.POST('/api/practice/walks', { params: { query: by.value }, body: of }))
    return data?.id ?? ''
  }

  async function load(id: string) {
    if (walk.value?.id !== id) {
      walk.value = null
      account.value = null
    }
    const { data } = await ask(api.GET('/api/practice/walks/{id}', { params: at(id) }))
    if (!data) return
    walk.value = data
    if (data.ended) account.value = (await ask(api.GET('/api/practice/walks/{id}/account', { params: at(id) }))).data ?? null
  }

  async function look(n: number, part: string) {
    if (!walk.value) return
    const path = { id: walk.value.id, n, part }
    const { data } = await ask(api.POST('/api/practice/walks/{id}/trees/{n}/parts/{part}', { params: { path, query: by.value } }))
    if (data) walk.value = data
  }

  async function end() {
    if (!walk.value) return
    const { ok } = await ask(api.POST('/api/practice/walks/{id}/end', { params: at(walk.value.id) }))
    if (ok) await load(walk.value.id)
  }

  const drawing = (n: number, part: string) => (theme: string) => {
    const query = new URLSearchParams({ theme, ...(by.value as Record<string, string>) })
    return `/api/practice/walks/${walk.value?.id}/trees/${n}/parts/${part}?${query}`
  }

  return { all, walk, account, wrong, busy, list, begin, load, look, end, drawing }
})
