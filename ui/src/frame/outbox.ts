import { useEventListener, useTimeoutFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, getCurrentScope, ref } from 'vue'
import { api, problemLines, type Entry, type TreeView } from '../api/client'
import { allLasting, dropLasting, putLasting } from './lasting'
import { useSession } from './session'

/** An entry that the book does not have yet, and its tree. */
export interface Waiting {
  tree: string
  tag: string
  entry: Entry
  /** The tree as it was seen then; sent along once it had to wait, so that the entry gets its place among others. */
  seen?: string
  waited?: boolean
  /** Why the book would not have it, for one that had waited or was left behind. */
  refused?: string[]
  /** What the book said when it stumbled over it: it is asked again. */
  stumbled?: string[]
}

/** What the book answered to an entry. */
export interface Answered {
  of: Waiting
  tree?: TreeView
  revision: string
  lines?: string[]
}

const prefix = 'palethicket.entry.'
const againAfter = 3000
const noConnectionAt = [502, 503, 504]

/**
 * Keeps an entry in the browser until the book has it. Each has a key of its
 * own: windows that wrote one common list would write over each other's.
 */
function keep(w: Waiting): void {
  localStorage.setItem(prefix + w.entry.id, JSON.stringify(w))
}

/** Everything that is kept, oldest first. What cannot be read stays where it is. */
function kept(): Waiting[] {
  const out: Waiting[] = []
  for (const k of Object.keys(localStorage)
    .filter((k) => k.startsWith(prefix))
    .sort()) {
    try {
      const w = JSON.parse(localStorage.getItem(k) ?? '') as Waiting
      if (w.entry?.id && w.tree) out.push(w)
    } catch {
      // somebody else wrote it
    }
  }
  return out
}

/**
 * What was pressed and the book does not have yet, of whatever tree, whatever
 * page is open. It is sent oldest first, each under the name of the person who made
 * it and of nobody else; what the book stumbles over or refuses does not hold up
 * the rest.
 */
export const useOutbox = defineStore('outbox', () => {
  const session = useSession()
  const items = ref<Waiting[]>([])
  const offline = ref(false)
  const full = ref(false) // the browser has no room to keep more
  const unsaved = ref(0) // entries that are not on the disk yet
  let recalled = false
  let sending = false
  let listener: ((answered: Answered) => boolean) | undefined

  /** Whose an entry is: on one's own machine everything is sent as it is. */
  const mine = (w: Waiting) => !session.session?.needed || (w.entry.by ?? '') === session.name
  const waiting = computed(() => items.value.filter((w) => !w.refused && mine(w)))
  const others = computed(() => items.value.filter((w) => !w.refused && !mine(w)))
  const refused = computed(() => items.value.filter((w) => w.refused))
  /** Whether anything but one entry is on its way for a tree; what the book stumbled over is not. */
  const of = (tree: string, but = '') => waiting.value.some((w) => w.tree === tree && !w.stumbled && w.entry.id !== but)

  /** Takes over what an earlier window could not send. */
  function adopt() {
    const known = new Set(items.value.map((w) => w.entry.id))
    items.value.push(
      ...kept()
        .filter((w) => !known.has(w.entry.id))
        .map((w) => ({ ...w, waited: true })),
    )
    items.value.sort((a, b) => (a.entry.id < b.entry.id ? -1 : 1))
  }

  /** Takes over what an earlier window kept and was ended before it was in localStorage. */
  async function recall() {
    if (recalled) return adopt()
    recalled = true
    const lasting = await allLasting().catch(() => new Map<string, string>())
    for (const [id, text] of lasting) if (!localStorage.getItem(prefix + id)) localStorage.setItem(prefix + id, text)
    adopt()
  }

  function save(w: Waiting) {
    unsaved.value++
    try {
      keep(w)
      full.value = false
    } catch {
      full.value = true
    }
    putLasting(w.entry.id, JSON.stringify(w))
      .catch(() => (full.value = true))
      .finally(() => unsaved.value--)
  }

  function add(w: Waiting) {
    items.value.push(w)
    save(w)
    void flush()
  }

  function drop(id: string) {
    items.value = items.value.filter((w) => w.entry.id !== id)
    localStorage.removeItem(prefix + id)
    void dropLasting(id).catch(() => undefined) // what is sent twice counts once
  }

  /** Names what an entry needs in the book before it. */
  const needs = (e: Entry) => [e.look, e.entry].filter(Boolean)

  /** The next to send: not what stumbled, nor what stands on that. */
  function next(): Waiting | undefined {
    const held = new Set(waiting.value.filter((w) => w.stumbled).map((w) => w.entry.id))
    return waiting.value.find((w) => {
      const free = !held.has(w.entry.id) && !needs(w.entry).some((id) => held.has(id ?? ''))
      if (!free) held.add(w.entry.id)
      return free
    })
  }

  async function send(w: Waiting) {
    const { data, error, response } = await api.POST('/api/trees/{id}/entries', {
      params: { path: { id: w.tree } },
      body: w.waited ? { ...w.entry, seen: w.seen } : w.entry,
    })
    offline.value = noConnectionAt.includes(response.status)
    if (offline.value) return
    if (response.status === 401) {
      // Signed out meanwhile, or somebody else is signed in: it waits for whoever made it.
      await session.load()
      if (session.ready && mine(w)) offline.value = true
      return
    }
    if (response.status >= 500) {
      w.stumbled = problemLines(error)
      return
    }
    const lines = error ? problemLines(error) : undefined
    const heard = listener?.({ of: w, tree: data, revision: response.headers.get('ETag') ?? '', lines }) ?? false
    if (!lines || (heard && !w.waited)) return drop(w.entry.id)
    w.refused = lines
    save(w)
  }

  /** Sends what waits; what the book stumbled over is asked again where it is asked for or a while later. */
  async function flush(again = false) {
    if (sending || (session.session?.needed && !session.ready)) return
    sending = true
    if (again) for (const w of items.value) delete w.stumbled
    try {
      for (let w = next(); w && !offline.value; w = next()) await send(w)
    } catch {
      offline.value = true
    }
    sending = false
    if (offline.value)
      for (const w of items.value) {
        w.waited = true
        save(w)
      }
    plan()
  }

  const scope = getCurrentScope() // of a page: one that is gone sends nothing more
  const pause = () => (offline.value ? againAfter : waiting.value.some((w) => w.stumbled) ? 10 * againAfter : 0)
  const later = useTimeoutFn(() => resume(), pause, { immediate: false })

  function plan() {
    later.stop()
    if (!scope?.active || !waiting.value.length || (session.session?.needed && !session.ready)) return
    later.start()
  }

  function resume() {
    offline.value = false
    return flush(true)
  }

  /** Sends a refused one once more. */
  function sendAgain(id: string) {
    const w = items.value.find((w) => w.entry.id === id)
    if (!w) return
    delete w.refused
    save(w)
    void flush()
  }

  /** On one's word, what was made here without a name is one's own. */
  function claim() {
    for (const w of others.value.filter((w) => !w.entry.by)) {
      w.entry.by = session.name
      save(w)
    }
    void flush()
  }

  /** Has the open tree hear what the book answers; it says whether it showed it. */
  const listen = (to: typeof listener) => (listener = to)

  /** Another window's entries are seen here too, and those that it sent are not sent again. */
  useEventListener(window, 'storage', (e: StorageEvent) => {
    if (!e.key?.startsWith(prefix)) return
    const id = e.key.slice(prefix.length)
    if (e.newValue === null) items.value = items.value.filter((w) => w.entry.id !== id)
    else adopt()
  })
  useEventListener(window, 'online', () => void resume())

  return { items, waiting, others, refused, offline, full, unsaved, of, add, adopt, recall, drop, flush, resume, sendAgain, claim, listen }
})
