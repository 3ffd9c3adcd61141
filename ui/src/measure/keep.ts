import { monotonicFactory } from 'ulid'
import { api, type Entry } from '../api/client'
import { useAsk } from '../frame/ask'
import { useSession } from '../frame/session'
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

  return { wrong, busy, keep }
}
