import { ulid } from 'ulid'
import { computed, ref } from 'vue'
import { api, type Entry, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { useSession } from '../frame/session'

export type Mode = 'known' | 'line' | 'bend' | 'count'
export type Spot = [number, number]
type Marks = Schemas['Marks']

/** How many presses each kind of mark takes. */
export const presses: Record<Mode, number> = { known: 2, line: 2, bend: 3, count: 1 }

/** What is marked on one photograph: pressed here, read off by the book, kept when asked. */
export function useMarks(photo: string, tree: string) {
  const session = useSession()
  const marks = ref<Marks>({ photo, known: '', lines: [], bends: [], tally: [], what: '' })
  const pending = ref<Spot[]>([]) // of the mark that is being made
  const order = ref<Mode[]>([]) // in which marks were made here, for taking the last away
  const off = ref<Schemas['ReadOff'] | null>(null)
  const kept = ref('') // as it was kept last
  const { wrong, ask } = useAsk({ typed: true })
  const reading = useAsk({ typed: true })
  const changed = computed(() => JSON.stringify(marks.value) !== kept.value)

  async function load() {
    const { data } = await ask(api.GET('/api/photos/{id}/marks', { params: { path: { id: photo } } }))
    if (!data) return
    marks.value = { ...data, known: data.known ?? '', what: data.what ?? '' }
    kept.value = JSON.stringify(marks.value)
    await read()
  }

  async function read() {
    const { data } = await reading.ask(api.POST('/api/marks', { body: marks.value }))
    if (data) off.value = data
  }

  function press(mode: Mode, at: Spot) {
    pending.value.push(at)
    if (pending.value.length < presses[mode]) return
    const p = pending.value
    pending.value = []
    const m = marks.value
    if (mode === 'count') m.tally = [...(m.tally ?? []), p[0]!]
    else if (mode === 'bend') m.bends = [...(m.bends ?? []), { at: [p[0]!, p[1]!, p[2]!], of: '' }]
    else if (mode === 'known') m.lines = [{ from: p[0]!, to: p[1]! }, ...(m.lines ?? []).slice(1)]
    else m.lines = [...(m.lines ?? []), { from: p[0]!, to: p[1]!, of: '' }]
    order.value.push(mode)
    void read()
  }

  /** Takes the last press or mark away. */
  function back() {
    if (pending.value.pop()) return
    const mode = order.value.pop()
    const m = marks.value
    if (mode === 'count') m.tally = (m.tally ?? []).slice(0, -1)
    else if (mode === 'bend') m.bends = (m.bends ?? []).slice(0, -1)
    else if (mode) m.lines = (m.lines ?? []).slice(0, -1)
    void read()
  }

  function clear() {
    pending.value = []
    order.value = []
    Object.assign(marks.value, { lines: [], bends: [], tally: [] })
    void read()
  }

  async function enter(entry: Partial<Entry>): Promise<boolean> {
    const body = { id: ulid(), by: session.name || undefined, ...entry } as Entry
    return (await ask(api.POST('/api/trees/{id}/entries', { params: { path: { id: tree } }, body }))).ok
  }

  async function keep(): Promise<boolean> {
    const ok = await enter({ kind: 'marks', marks: marks.value })
    if (ok) kept.value = JSON.stringify(marks.value)
    return ok
  }

  /** Scores what was read off in a look; the marks it comes from are kept first. */
  async function score(o: Schemas['OfferedScore'], look: string): Promise<boolean> {
    if (changed.value && !(await keep())) return false
    const into = look || ulid()
    if (!look && !(await enter({ id: into, kind: 'look', from: 'tree', note: 'Off a photograph' }))) return false
    return enter({ kind: 'score', look: into, score: { character: o.character, typed: o.typed }, measured: { photo } })
  }

  return { marks, pending, off, wrong, readWrong: reading.wrong, changed, order, load, read, press, back, clear, keep, score }
}
