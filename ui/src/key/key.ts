import { monotonicFactory } from 'ulid'
import { computed, ref } from 'vue'
import { api, type Entry, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { useSession } from '../frame/session'

const ulid = monotonicFactory()
export type Lead = Schemas['Lead']
export interface Asked {
  region: string
  list: string
  tract: string
  stand: string
  tree: string
  taste: string
  genus: string
}

/** A key, and the way that is gone through it. */
export function useKey() {
  const session = useSession()
  const key = ref<Schemas['Key'] | null>(null)
  const way = ref<{ n: number; lead: Lead }[]>([])
  const asking = useAsk({ typed: true })
  const handing = useAsk({ typed: true })

  async function make(asked: Asked) {
    const query = Object.fromEntries(Object.entries(asked).filter(([, v]) => v))
    const { data } = await asking.ask(api.GET('/api/key', { params: { query: query as never } }))
    if (!data) return
    key.value = data
    way.value = []
  }

  const at = computed(() => {
    const last = way.value.at(-1)
    if (!key.value?.couplets?.length || (last && !last.lead.to)) return null
    return key.value.couplets[(last?.lead.to ?? 1) - 1] ?? null
  })
  const end = computed(() => (way.value.length && !at.value ? (way.value.at(-1)?.lead.ends ?? null) : (key.value?.ends ?? null)))

  const choose = (n: number, lead: Lead) => way.value.push({ n, lead })
  const back = () => way.value.pop()

  /** What was chosen on the way as scores; of a measure a key knows only between what it lies. */
  const scores = computed(() => way.value.map((w) => w.lead).filter((l) => l.states?.length || l.seen !== undefined))

  async function enter(tree: string, entry: Partial<Entry>): Promise<boolean> {
    const body = { id: ulid(), by: session.name || undefined, ...entry } as Entry
    return (await handing.ask(api.POST('/api/trees/{id}/entries', { params: { path: { id: tree } }, body }))).ok
  }

  /** Hands what was chosen over to a tree, as one look. */
  async function handOver(tree: string): Promise<boolean> {
    const look = ulid()
    if (!(await enter(tree, { id: look, kind: 'look', from: 'tree', note: `By the key: ${key.value?.title ?? ''}` }))) return false
    for (const l of scores.value) {
      const said = l.states?.length ? { states: l.states } : { seen: l.seen }
      if (!(await enter(tree, { kind: 'score', look, score: { character: l.character, ...said } }))) return false
    }
    return true
  }

  return { key, way, at, end, asking, handing, scores, make, choose, back, handOver }
}
