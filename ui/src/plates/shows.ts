import type { LookView, Schemas } from '../api/client'

/** What a tree shows of one character. */
export interface Shown {
  state?: string
  value?: number
  seen?: boolean
}

/** What a tree shows, by character; what is not in it is not known. */
export type Shows = Map<string, Shown>

export function showsOfPlate(p: Schemas['Plate']): Shows {
  return new Map((p.shows ?? []).map((s) => [s.character, { state: s.state, value: s.value, seen: s.seen }]))
}

const toMillimetres: Record<string, number> = { mm: 1, cm: 10, m: 1000, in: 25.4, ft: 304.8 }

/** What the looks at a tree have shown, those that probably were of another tree left out; of several states the first. */
export function showsOfLooks(looks: LookView[], units: Map<string, { unit: string }>): Shows {
  const out: Shows = new Map()
  for (const l of looks) {
    if (l.stranger) continue
    for (const s of l.scores ?? []) {
      const own = units.get(s.character)?.unit ?? ''
      const factor = s.unit && s.unit !== own ? (toMillimetres[s.unit] ?? 1) / (toMillimetres[own] ?? 1) : 1
      const state = s.nodes ? ((s.pairs ?? 0) > 0 ? 'opposite' : 'alternate') : s.states?.[0]
      out.set(s.character, { state, value: s.value === undefined ? undefined : s.value * factor, seen: s.seen })
    }
  }
  return out
}

/** The characters that both know and in which they differ. Lengths differ when one is half as long again as the other. */
export function differences(a: Shows, b: Shows): string[] {
  const out: string[] = []
  for (const [id, x] of a) {
    const y = b.get(id)
    if (!y) continue
    const apart =
      x.value !== undefined && y.value !== undefined ? Math.max(x.value, y.value) > 1.5 * Math.min(x.value, y.value)
      : x.seen !== undefined ? x.seen !== y.seen
      : x.state !== y.state
    if (apart) out.push(id)
  }
  return out
}
