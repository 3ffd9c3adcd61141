import type { Entry } from '../api/client'

/** An entry that the book does not have yet, and its tree. */
export interface Waiting {
  tree: string
  entry: Entry
  /** The tree as it was seen then; sent along once it had to wait, so that the entry gets its place among others. */
  seen?: string
  waited?: boolean
}

const prefix = 'palethicket.entry.'

/**
 * Keeps an entry in the browser until the book has it. Each has a key of its
 * own: windows that wrote one common list would write over each other's.
 */
export function keep(w: Waiting): void {
  localStorage.setItem(prefix + w.entry.id, JSON.stringify(w))
}

export function sent(id: string): void {
  localStorage.removeItem(prefix + id)
}

/** Everything that is kept, oldest first. Sending an entry twice does no harm. */
export function kept(): Waiting[] {
  return Object.keys(localStorage)
    .filter((k) => k.startsWith(prefix))
    .sort()
    .map((k) => JSON.parse(localStorage.getItem(k) ?? '') as Waiting)
}
