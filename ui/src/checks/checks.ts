import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { useSession } from '../frame/session'

/** Check cruises as the leads see them, and one's own while one is at it. */
export const useChecks = defineStore('checks', () => {
  const all = ref<Schemas['CheckCruise'][]>([])
  const mine = ref<Schemas['CheckCruise'] | null>(null)
  const results = ref<Schemas['CheckResults'] | null>(null)
  const spring = ref<Schemas['FieldAccuracy'] | null>(null)
  const session = useSession()
  const { wrong, busy, ask } = useAsk({ typed: true })
  const own = useAsk() // of several questions one way only the last is heard
  const reading = useAsk()
  const proving = useAsk()

  async function load() {
    if (session.checking) return look()
    const { data } = await own.ask(api.GET('/api/checks'))
    if (data) all.value = data
  }

  async function look() {
    const { data } = await own.ask(api.GET('/api/checking'))
    mine.value = data ?? null
  }

  async function prove() {
    const { data } = await proving.ask(api.GET('/api/accuracy', { params: { query: {} } }))
    if (data) spring.value = data
  }

  async function draw(plan: Schemas['NewCheck']) {
    return (await ask(api.POST('/api/checks/draw', { body: plan }))).data ?? null
  }

  async function plan(plan: Schemas['NewCheck']): Promise<boolean> {
    const { ok } = await ask(api.POST('/api/checks', { body: plan }))
    if (ok) await load()
    return ok
  }

  async function finish(id: string): Promise<boolean> {
    const { ok } = await ask(api.POST('/api/checks/{id}/finish', { params: { path: { id } } }))
    if (ok) await session.load()
    return ok
  }

  async function drop(id: string) {
    await ask(api.DELETE('/api/checks/{id}', { params: { path: { id } } }))
    await load()
  }

  async function read(id: string) {
    results.value = null
    const { data } = await reading.ask(api.GET('/api/checks/{id}/results', { params: { path: { id } } }))
    if (data) results.value = data
  }

  const said = { wrong, refused: own.wrong, unread: reading.wrong, unproved: proving.wrong }
  return { ...said, all, mine, results, spring, busy, load, look, prove, draw, plan, finish, drop, read }
})
