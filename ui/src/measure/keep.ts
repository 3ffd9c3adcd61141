import { monotonicFactory } from 'ulid'
import { api, type Entry } from '../api/client'
import { useAsk } from '../frame/ask'
import { useSession } from '../frame/session'
import type { Reading } from '../instruments/instruments'
import type { Sum } from './work'

const ulid = monotonicFactory()

/** Enters readings of a tree; the book works out from them what the entry says. */
export function useKeep() {
  const session = useSession()
  const { wrong, busy, ask } = useAsk({ typed: true })

  async function enter(tree: string, entry: Partial<Entry>): Promise<boolean> {
    const by = session.name ? { by: session.name } : {}
    const body = { id: ulid(), ...by, ...entry } as Entry
    return (await ask(api.POST('/api/trees/{id}/entries', { params: { path: { id: tree } }, body }))).ok
  }

  /** A diameter is a score of a look: of the look that it was read in before, or a new one. */
  async function keep(tree: string, sum: Sum, given: Record<string, unknown>, instrument: string, look = ''): Promise<boolean> {
    const measured = { sum: sum.id, given, ...(instrument ? { instrument } : {}) } as Entry['measured']
    if (sum.fills !== 'diameter') return enter(tree, { kind: 'facts', facts: {}, measured })
    const into = look || ulid()
    if (!look && !(await enter(tree, { id: into, kind: 'look', from: 'tree' }))) return false
    return enter(tree, { kind: 'score', look: into, score: { character: 'form.dbh' }, measured })
  }

  /** A height that an instrument worked out itself. */
  async function high(tree: string, r: Reading): Promise<boolean> {
    const { data } = await ask(api.GET('/api/measure', { params: { query: { typed: r.text, taken: 'm', to: 'm' } } }))
    if (!data) return false
    return enter(tree, { kind: 'facts', facts: { height_m: data.value }, measured: { instrument: r.instrument } })
  }

  /** A diameter as the caliper read it. */
  async function thick(tree: string, r: Reading, look: string): Promise<boolean> {
    const into = look || ulid()
    if (!look && !(await enter(tree, { id: into, kind: 'look', from: 'tree' }))) return false
    const score = { character: 'form.dbh', typed: r.text, how: 'caliper' }
    return enter(tree, { kind: 'score', look: into, score, measured: { instrument: r.instrument } })
  }

  return { wrong, busy, keep, high, thick }
}
