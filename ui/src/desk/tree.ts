import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { monotonicFactory } from 'ulid'
import { useSession } from '../frame/session'
import { useVocabulary } from '../frame/vocabulary'
import { keep, kept, sent, type Waiting } from './outbox'
import { api, problemLines, type Entry, type LookView, type Score, type TreeView } from '../api/client'

// Entries are replayed in the order of their ids, so two of one millisecond must differ in order too.
const ulid = monotonicFactory()

type Facts = NonNullable<Entry['facts']>

/** What an entry changes of a view at once. */
type Shown = Pick<TreeView, 'looks' | 'facts'>

/**
 * The open tree. Every press becomes an entry with an id of its own, is shown
 * at once, and waits in an outbox kept by the browser until the book has it; so
 * a lost connection or a closed window loses nothing.
 */
export const useTree = defineStore('tree', () => {
  const view = ref<TreeView | null>(null)
  const openLook = ref('')
  const error = ref('')
  const rejected = ref<{ character: string; lines: string[] } | null>(null)
  const offline = ref(false)
  const wanted = ref('') // a character that the desk should show next
  const wantedAfter = ref<{ character: string; from?: string } | null>(null) // the same, once the tree that is being opened is there
  const outbox = ref<Waiting[]>([])
  let current = '' // the tree that is open or being opened
  let presses = 0
  let sending = false

  const made = ref<Entry[]>([]) // on this tree, in this window
  const before = new Map<string, Shown>() // what was shown before each of them
  const undos = ref<string[]>([]) // undoings made here since something else was, for taking them back
  const session = useSession()
  const vocabulary = useVocabulary()
  let shown = '' // the revision that the view shows, as the book calls it

  const waiting = computed(() => outbox.value.length)
  const look = computed(() => view.value?.looks?.find((l) => l.id === openLook.value))

  const lastLook = () => view.value?.looks?.at(-1)?.id ?? ''

  async function open(id: string) {
    if (id !== current) {
      before.clear()
      made.value = []
      undos.value = []
    }
    current = id
    view.value = null
    shown = ''
    error.value = ''
    rejected.value = null
    openLook.value = ''
    adopt()
    await flush()
    await refresh()
  }

  /** Takes over what an earlier window could not send. */
  function adopt() {
    const known = new Set(outbox.value.map((w) => w.entry.id))
    outbox.value.push(
      ...kept()
        .filter((w) => !known.has(w.entry.id))
        .map((w) => ({ ...w, waited: true })),
    )
  }

  /**
   * Fetches the tree again, so that scores made in another window show here. An
   * answer that was on its way while something was pressed is out of date.
   */
  async function refresh() {
    if (!current || outbox.value.length > 0) return
    const id = current
    const before = presses
    try {
      const {
        data,
        error: problem,
        response,
      } = await api.GET('/api/trees/{id}', { params: { path: { id }, header: { 'If-None-Match': shown || undefined } } })
      offline.value = false
      if (id !== current || before !== presses || response.status === 304) return
      if (data) show(data, response)
      else error.value = problemLines(problem).join(' ')
    } catch {
      offline.value = true
    }
  }

  function show(tree: TreeView, from: Response) {
    const first = view.value === null
    view.value = tree
    shown = from.headers.get('ETag') ?? ''
    if (first) openLook.value = lastLook()
    if (first && wantedAfter.value) {
      const { character, from } = wantedAfter.value
      if (from) goTo(character, from)
      else scoreNext(character)
      wantedAfter.value = null
    }
  }

  function add(entry: Omit<Entry, 'id'>): string {
    const id = ulid()
    if (!view.value) return id
    const waiting = { tree: view.value.tree.id, entry: { id, by: session.name || undefined, ...entry }, seen: view.value.seen }
    made.value.push(waiting.entry)
    before.set(id, JSON.parse(JSON.stringify({ looks: view.value.looks, facts: view.value.facts })))
    if (entry.kind !== 'undo') undos.value = []
    presses++
    outbox.value.push(waiting)
    keep(waiting)
    void flush()
    return id
  }

  /** Sends what waits, oldest first; the answer to each is the whole tree. */
  async function flush() {
    if (sending) return
    sending = true
    try {
      while (outbox.value.length > 0) {
        const { tree, entry, seen, waited } = outbox.value[0]
        const {
          data,
          error: problem,
          response,
        } = await api.POST('/api/trees/{id}/entries', { params: { path: { id: tree } }, body: waited ? { ...entry, seen } : entry })
        offline.value = response.status >= 500 || response.status === 401
        if (response.status === 401) await session.load() // signed out meanwhile: what waits is sent after signing in
        if (offline.value) break
        outbox.value.shift()
        sent(entry.id)
        if (data && tree === current && outbox.value.length === 0) show(data, response)
        if (problem) reject(entry, problemLines(problem))
      }
    } catch {
      offline.value = true
    }
    sending = false
    if (offline.value) outbox.value.forEach((w) => (w.waited = true))
    if (offline.value) window.setTimeout(flush, 3000)
    else if (view.value?.tree.id !== current) void refresh()
  }

  function reject(entry: Entry, lines: string[]) {
    made.value = made.value.filter((e) => e.id !== entry.id)
    rejected.value = { character: entry.score?.character ?? entry.kind, lines }
    void refresh()
  }

  function addLook(from: string): string {
    const id = add({ kind: 'look', from })
    view.value?.looks?.push({
      id,
      from,
      from_words: vocabulary.say(vocabulary.words?.froms, from),
      note: '',
      scores: [],
      belongs: 0,
      stranger: false,
      whose: '',
      bits: 0,
      says: '',
    } as LookView)
    openLook.value = id
    return id
  }

  /** Opens a character for scoring, in the last look of that kind or a new one. */
  function goTo(character: string, from: string) {
    const at = view.value?.looks?.findLast((l) => l.from === from && !l.stranger)
    openLook.value = at?.id ?? addLook(from)
    wanted.value = character
  }

  /** Opens a character for scoring in the kind of look that it is scored in. */
  const scoreNext = (character: string) => goTo(character, vocabulary.characters.get(character)?.from ?? 'tree')

  /** What was pressed, until the book has read it and says it. */
  function pressed(s: Score): string {
    const states = vocabulary.characters.get(s.character)?.states
    return (
      s.typed ||
      (s.states ?? [])
        .map((id) => vocabulary.say(states, id))
        .join(' / ')
        .toLowerCase() ||
      '…'
    )
  }

  /** Lays a score over an earlier one of the same character and zone. */
  function score(s: Score, lookId = openLook.value) {
    rejected.value = null
    const at = view.value?.looks?.find((l) => l.id === lookId)
    const entry = add({ kind: 'score', look: lookId, score: s })
    if (at)
      at.scores = [
        ...(at.scores ?? []).filter((o) => !same(o, s)),
        { entry, name: vocabulary.characterName(s.character), words: pressed(s), ...s },
      ]
  }

  function same(a: Score, b: Score): boolean {
    return a.character === b.character && (a.zone ?? 'breast') === (b.zone ?? 'breast')
  }

  function withdraw(id: string) {
    add({ kind: 'withdraw', entry: id })
    if (!view.value) return
    view.value.looks = (view.value.looks ?? []).filter((l) => l.id !== id)
    for (const l of view.value.looks) l.scores = (l.scores ?? []).filter((s) => s.entry !== id)
    if (openLook.value === id) openLook.value = lastLook()
  }

  /** What was made here and counts as never made. */
  const undone = computed(() => {
    const gone = new Set<string>()
    const names = new Map(made.value.filter((e) => e.kind === 'undo').map((e) => [e.id, e.entry]))
    for (const e of made.value) {
      if (e.kind !== 'undo' || !e.entry) continue
      if (names.get(e.entry)) gone.delete(names.get(e.entry) ?? '')
      else gone.add(e.entry)
    }
    return gone
  })

  /** One's own last act on this tree that can be undone: what was made here first, then what the book knows of. */
  const act = computed(() => {
    const here = made.value.findLast((e) => e.kind !== 'undo' && !undone.value.has(e.id))
    const known = view.value?.acts?.find((a) => (here ? a.entry === here.id : a.by === session.name && !undone.value.has(a.entry)))
    return here ? { entry: here.id, words: known?.words ?? '' } : known
  })

  /** Has an entry count as never made, which is an entry too; shows at once what was shown before it. */
  function takeBack(entry: string): string {
    const id = add({ kind: 'undo', entry })
    const was = before.get(entry)
    if (view.value && was) Object.assign(view.value, JSON.parse(JSON.stringify(was)))
    if (!look.value) openLook.value = lastLook()
    return id
  }

  function undo() {
    if (act.value) undos.value.push(takeBack(act.value.entry))
  }

  function redo() {
    const last = undos.value.pop()
    if (last) takeBack(last)
  }

  function noteLook(lookId: string, note: string) {
    add({ kind: 'note', look: lookId, note })
    const at = view.value?.looks?.find((l) => l.id === lookId)
    if (at) at.note = note
  }

  function setFacts(facts: Facts) {
    add({ kind: 'facts', facts })
    if (view.value) Object.assign(view.value.facts, facts)
  }

  const giveName = (rank: NonNullable<Entry['name']>['rank'], name: string, why: string) => add({ kind: 'name', name: { rank, name, why } })

  return {
    view,
    look,
    openLook,
    wanted,
    wantedAfter,
    error,
    rejected,
    offline,
    waiting,
    act,
    undo,
    redo,
    canUndo: computed(() => act.value !== undefined),
    canRedo: computed(() => undos.value.length > 0),
    open,
    refresh,
    flush,
    addLook,
    goTo,
    scoreNext,
    score,
    withdraw,
    noteLook,
    setFacts,
    giveName,
  }
})
