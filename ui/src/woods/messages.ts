/** What the page and the worker, which has the program and the book, say to each other. */

/** A question as it goes to the program: a fetch, without its stream. */
export interface Question {
  method: string
  url: string
  headers: [string, string][]
  body: Uint8Array | null
}

/** An answer as it comes back. */
export interface Answer {
  status: number
  headers: [string, string][]
  body: Uint8Array
}

/** Tells a service worker that a newer one waits to take its place. */
export const leaving = 'LEAVING'

/** Asks a service worker to answer for a page that was still loading when it began. */
export const claim = 'CLAIM'

/** What the worker says where the device has no book. */
export const nothingHere = 'Nothing was taken along on this device.'

/** What is taken along, and for whom (away.Taken). */
export interface Taking {
  tracts: string[]
  photos: boolean
  guarded: boolean
  device: string
  name: string
  role: string
  token: string
  until: string
  hash: string
}

/** The program as home has it (field.json). */
export interface ProgramFile {
  digest: string // the start of the next, by which its address tells it apart
  sha256: string
  start: string // SHA-256 of what starts it
  bytes: number // to be fetched
  unpacked: number
}

export type Job =
  { do: 'open' } | { do: 'ask'; question: Question } | { do: 'take'; taking: Taking } | { do: 'cancel' } | { do: 'size' } | { do: 'clear' }

export type ToWorker = Job & { id: number; program: string }

export type FromWorker =
  | { id: number; ok: true; value: unknown }
  | { id: number; ok: false; why: string }
  | { progress: { done: number; all: number } }
  | { died: string }
