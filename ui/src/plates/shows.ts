import type { Schemas } from '../api/client'

/** What a tree shows of one character. */
export interface Shown {
  state?: string
  value?: number
  seen?: boolean
}

/** What a tree shows, by character; what is not in it is not known. */
export type Shows = Map<string, Shown>

export const showsOf = (from: Schemas['DrawnFrom'][] | null | undefined): Shows =>
  new Map((from ?? []).map((s) => [s.character, { state: s.state, value: s.value, seen: s.seen }]))
