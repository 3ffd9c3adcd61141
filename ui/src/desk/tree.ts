import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { monotonicFactory } from 'ulid'
import { useHistory } from './history'
import { useSession } from '../frame/session'
import { useVocabulary } from '../frame/vocabulary'
import { keep, kept, sent, type Waiting } from './outbox'
import { api, problemLines, type Entry, type LookView, type Score, type ScoreView, type TreeView } from '../api/client'

// Entries are replayed in the order of their ids, so two of one millisecond must differ in order too.
const ulid = monotonicFactory()

type Facts = NonNullable<Entry['facts']>

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

  const history = useHistory()
  const session = useSession()
  const vocabulary = useVocabulary()
  let shown = '' // the revision that the view shows, as the book calls it

  const waiting = computed(() => outbox.value.length)
  const look = computed(() => view.value?.looks?.find((l) => l.id === openLook.value))

  const lastLook = () => view.value?.looks?.at(-1)?.id ?? ''

  async function open(id: string) {
    if (id !== current) history.forget()
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
    outbox.value.push(...kept().filter((w) => !known.has(w.entry.id)))
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
    const waiting = { tree: view.value.tree.id, entry: { id, by: session.name || undefined, ...entry } }
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
        const { tree, entry } = outbox.value[0]
        const {
          data,
          error: problem,
          response,
        } = await api.POST('/api/trees/{id}/entries', { params: { path: { id: tree } }, body: entry })
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
    if (offline.value) window.setTimeout(flush, 3000)
    else if (view.value?.tree.id !== current) void refresh()
  }

  function reject(entry: Entry, lines: string[]) {
    rejected.value = { character: entry.score?.character ?? entry.kind, lines }
    void refresh()
  }

  function addLook(from: string, scores: Score[] = []): string {
    let id = add({ kind: 'look', from })
    const put = () => {
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
      for (const s of scores) lay(s, id)
    }
    put()
    history.did({
      undo: () => withdraw(id),
      redo: () => {
        id = add({ kind: 'look', from })
        put()
      },
    })
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

  /** Lays a score over an earlier one of the same character and zone; gives its entry. */
  function lay(s: Score, lookId: string): string {
    const at = view.value?.looks?.find((l) => l.id === lookId)
    const entry = add({ kind: 'score', look: lookId, score: s })
    if (at)
      at.scores = [
        ...(at.scores ?? []).filter((o) => !same(o, s)),
        { entry, name: vocabulary.characterName(s.character), words: pressed(s), ...s },
      ]
    return entry
  }

  function same(a: Score, b: Score): boolean {
    return a.character === b.character && (a.zone ?? 'breast') === (b.zone ?? 'breast')
  }

  function score(s: Score, lookId = openLook.value) {
    rejected.value = null
    const standing = () => view.value?.looks?.find((l) => l.id === lookId)?.scores?.find((o) => same(o, s))
    const before = standing()
    lay(s, lookId)
    history.did({ undo: () => (before ? lay(bare(before), lookId) : withdraw(standing()?.entry ?? '')), redo: () => lay(s, lookId) })
  }

  function withdraw(id: string) {
    const look = view.value?.looks?.find((l) => l.id === id || l.scores?.some((s) => s.entry === id))
    const gone = look?.scores?.find((s) => s.entry === id)
    add({ kind: 'withdraw', entry: id })
    if (!view.value) return
    view.value.looks = (view.value.looks ?? []).filter((l) => l.id !== id)
    for (const l of view.value.looks) l.scores = (l.scores ?? []).filter((s) => s.entry !== id)
    if (openLook.value === id) openLook.value = lastLook()
    if (!look) return
    let again = ''
    history.did(
      gone
        ? { undo: () => (again = lay(bare(gone), look.id)), redo: () => withdraw(again) }
        : { undo: () => (again = addLook(look.from, (look.scores ?? []).map(bare))), redo: () => withdraw(again) },
    )
  }

  /** A score without the entry that made it. */
  function bare(s: ScoreView): Score {
    const out: Partial<ScoreView> = { ...s }
    for (const told of ['entry', 'name', 'words'] as const) delete out[told]
    return out as Score
  }

  function noteLook(lookId: string, note: string) {
    const at = view.value?.looks?.find((l) => l.id === lookId)
    if (at) at.note = note
    add({ kind: 'note', look: lookId, note })
  }
  function setFacts(facts: Facts) {
    const now = view.value?.facts as Facts | undefined
    const before = Object.fromEntries(Object.keys(facts).map((k) => [k, now?.[k as keyof Facts]])) as Facts
    const put = (f: Facts) => {
      if (view.value) Object.assign(view.value.facts, f)
      add({ kind: 'facts', facts: f })
    }
    put(facts)
    history.did({ undo: () => put(before), redo: () => put(facts) })
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
    undo: history.undo,
    redo: history.redo,
    canUndo: history.canUndo,
    canRedo: history.canRedo,
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
