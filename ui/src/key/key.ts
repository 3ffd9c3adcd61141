import { monotonicFactory } from 'ulid'
import { computed, ref } from 'vue'
import { api, type Entry, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { useOutbox } from '../frame/outbox'
import { useSession } from '../frame/session'

const ulid = monotonicFactory()
export type Lead = Schemas['Lead']
export type Mark = Schemas['Mark']
export interface Asked {
  region: string
  list: string
  tract: string
  stand: string
  tree: string
  taste: string
  genus: string
  age: string
}

/** A lead that was followed, and the entries that it made. */
interface Step {
  n: number
  lead: Lead
  scores: string[]
}

/**
 * A key, and the way that is gone through it. Where it is of one tree, each answer is a score on the tree at once, so that
 * leaving the key loses nothing.
 */
export function useKey() {
  const session = useSession()
  const outbox = useOutbox()
  const key = ref<Schemas['Key'] | null>(null)
  const way = ref<Step[]>([])
  const tree = ref<{ id: string; tag: string } | null>(null)
  const asking = useAsk({ typed: true })
  let look = '' // that the answers are scored in

  async function make(asked: Asked) {
    const query = Object.fromEntries(Object.entries(asked).filter(([, v]) => v))
    const { data } = await asking.ask(api.GET('/api/key', { params: { query: query as never } }))
    if (!data) return
    key.value = data
    way.value = []
    look = ''
  }

  const at = computed(() => {
    const last = way.value.at(-1)
    if (!key.value?.couplets?.length || (last && !last.lead.to)) return null
    return key.value.couplets[(last?.lead.to ?? 1) - 1] ?? null
  })
  const end = computed(() => (way.value.length && !at.value ? (way.value.at(-1)?.lead.ends ?? null) : (key.value?.ends ?? null)))
  const scored = computed(() => way.value.reduce((sum, s) => sum + s.scores.length, 0))

  function enter(entry: Omit<Entry, 'id'>): string {
    const id = ulid()
    const { id: of, tag } = tree.value!
    outbox.add({ tree: of, tag, entry: { id, by: session.name || undefined, ...entry } })
    return id
  }

  /** Scores a mark on the tree. Of a measure a key only knows between what it lies: that is no score. */
  function score(m: Mark): string[] {
    const said = m.states?.length ? { states: m.states } : m.seen !== undefined ? { seen: m.seen } : null
    if (!tree.value || !said || !session.may('observer')) return []
    look ||= enter({ kind: 'look', from: 'tree', note: `By the key: ${key.value?.title ?? ''}` })
    return [enter({ kind: 'score', look, score: { character: m.character, ...said } })]
  }

  /** Follows a lead; seen are the marks that the tree was seen to show. */
  function choose(n: number, lead: Lead, seen: Mark[]) {
    way.value.push({ n, lead, scores: seen.flatMap(score) })
  }

  /** Goes one couplet back, and takes back what was scored there. */
  function back() {
    for (const entry of way.value.pop()?.scores ?? []) enter({ kind: 'undo', entry })
  }

  return { key, way, at, end, tree, asking, scored, make, choose, back }
}
