import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { monotonicFactory } from 'ulid'
import { useSession } from '../frame/session'
import { useVocabulary } from '../frame/vocabulary'
import { useOutbox, type Answered } from '../frame/outbox'
import { api, problemLines, type Entry, type LookView, type Score, type TreeView } from '../api/client'

// Entries are replayed in the order of their ids, so two of one millisecond must differ in order too.
const ulid = monotonicFactory()

type Facts = NonNullable<Entry['facts']>

/** What an entry changes of a view at once. */
type Shown = Pick<TreeView, 'looks' | 'facts'>

/** What the book would not have, and of which look and character. */
export interface Rejected {
  character: string
  look?: string
  lines: string[]
}

/**
 * The open tree. Every press becomes an entry with an id of its own, is shown
 * at once, and waits in the outbox until the book has it; so a lost connection or a
 * closed window loses nothing.
 */
export const useTree = defineStore('tree', () => {
  const view = ref<TreeView | null>(null)
  const openLook = ref('')
  const error = ref('')
  const rejected = ref<Rejected | null>(null)
  const naming = ref(false) // the desk should open where the name is written
  const unreached = ref(false) // the book did not answer when it was asked
  const hand = ref('') // the character in hand, which keys act on
  const wanted = ref('') // a character that the desk should show next
  /** The same, or that it be named, once the tree that is being opened is there. */
  const wantedAfter = ref<{ character?: string; from?: string; naming?: boolean } | null>(null)
  const current = ref('') // the tree that is open or being opened
  let presses = 0

  const made = ref<Entry[]>([]) // on this tree, in this window
  const before = new Map<string, Shown>() // what was shown before each of them
  const undos = ref<string[]>([]) // undoings made here since something else was, for taking them back
  const session = useSession()
  const vocabulary = useVocabulary()
  const outbox = useOutbox()
  outbox.listen(hear)
  let shown = '' // the revision that the view shows, as the book calls it

  const offline = computed(() => unreached.value || outbox.offline)
  const waiting = computed(() => outbox.waiting.length)
  /** What was pressed on this tree is on its way to the book. */
  const sending = computed(() => outbox.of(current.value))
  /** A look that was begun and nothing was entered in yet: it becomes an entry with the first. */
  const draft = ref<LookView | null>(null)
  const looks = computed(() => [...(view.value?.looks ?? []), ...(draft.value ? [draft.value] : [])])
  const look = computed(() => looks.value.find((l) => l.id === openLook.value))
  watch(openLook, (id) => draft.value && id !== draft.value.id && (draft.value = null))

  /** The look that the desk goes on with. What is known of the site may be carried from another tree: nobody looked here yet. */
  const lastLook = () => view.value?.looks?.findLast((l) => l.from !== 'site')?.id ?? ''

  /** Nobody looked here yet: what is said of the site may be carried from another tree of the stand. */
  const unlooked = computed(() => !openLook.value && looks.value.every((l) => l.from === 'site'))

  async function open(id: string) {
    if (id !== current.value) {
      before.clear()
      made.value = []
      undos.value = []
    }
    current.value = id
    view.value = null
    shown = ''
    error.value = ''
    rejected.value = null
    openLook.value = ''
    hand.value = ''
    draft.value = null
    outbox.adopt()
    await outbox.flush(true)
    await refresh()
  }

  /** Leaves the desk: what the book refuses from now on is kept to be looked at. */
  function leave() {
    current.value = ''
    draft.value = null
  }

  /**
   * Fetches the tree again, so that scores made in another window show here. An
   * answer that was on its way while something was pressed is out of date.
   */
  async function refresh() {
    if (!current.value || (view.value && outbox.of(current.value))) return
    const id = current.value
    const before = presses
    try {
      const {
        data,
        error: problem,
        response,
      } = await api.GET('/api/trees/{id}', { params: { path: { id }, header: { 'If-None-Match': shown || undefined } } })
      unreached.value = false
      if (id !== current.value || before !== presses || response.status === 304) return
      if (data) show(data, response.headers.get('ETag') ?? '')
      else error.value = problemLines(problem).join(' ')
    } catch {
      unreached.value = true
    }
  }

  function show(tree: TreeView, revision: string) {
    const first = view.value === null
    view.value = tree
    shown = revision
    if (first) openLook.value = lastLook()
    else if (!look.value) openLook.value = lastLook()
    if (first && wantedAfter.value) {
      const { character, from, naming: name } = wantedAfter.value
      wantedAfter.value = null
      naming.value = name ?? false
      if (character && from) goTo(character, from)
      else if (character) scoreNext(character)
    }
  }

  function add(entry: Omit<Entry, 'id'>, id = ulid()): string {
    if (!view.value) return id
    const entered = { id, by: session.name || undefined, ...entry }
    made.value.push(entered)
    before.set(id, JSON.parse(JSON.stringify({ looks: view.value.looks, facts: view.value.facts })))
    if (entry.kind !== 'undo') undos.value = []
    presses++
    outbox.add({ tree: view.value.tree.id, tag: view.value.tree.tag, entry: entered, seen: view.value.seen })
    return id
  }

  /** Takes what the book answered; the answer to each entry is the whole tree, or why not. */
  function hear({ of, tree, revision, lines }: Answered): boolean {
    if (of.tree !== current.value) return false
    if (lines) reject(of.entry, lines)
    else if (tree && !outbox.of(of.tree, of.entry.id)) show(tree, revision)
    return true
  }

  function reject(entry: Entry, lines: string[]) {
    made.value = made.value.filter((e) => e.id !== entry.id)
    rejected.value = { character: entry.score?.character ?? entry.kind, look: entry.look, lines }
    shown = ''
    window.setTimeout(() => void refresh())
  }

  /** Begins a look; it is entered with the first thing that is scored or noted in it. */
  function addLook(from: string): string {
    const id = ulid()
    draft.value = {
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
    } as LookView
    openLook.value = id
    return id
  }

  function leaveLook() {
    draft.value = null
    openLook.value = lastLook()
  }

  /** Enters the look that was begun, before what is entered in it. */
  function enterLook(id: string) {
    if (draft.value?.id !== id || !view.value) return
    const begun = draft.value
    draft.value = null
    add({ kind: 'look', from: begun.from }, id)
    view.value.looks = [...(view.value.looks ?? []), begun]
  }

  /** Opens a character for scoring, in the last look of that kind or a new one. */
  function goTo(character: string, from: string) {
    const at = looks.value.findLast((l) => l.from === from && !l.stranger)
    openLook.value = at?.id ?? addLook(from)
    hand.value = character
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
  function score(s: Score, lookId = openLook.value, instrument = '') {
    rejected.value = null
    enterLook(lookId)
    const at = view.value?.looks?.find((l) => l.id === lookId)
    const entry = add({ kind: 'score', look: lookId, score: s, ...(instrument ? { measured: { instrument } } : {}) })
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

  /** Undoes an entry of one's own; without one, the last. */
  function undo(entry = act.value?.entry) {
    if (entry) undos.value.push(takeBack(entry))
  }

  function redo() {
    const last = undos.value.pop()
    if (last) takeBack(last)
  }

  function noteLook(lookId: string, note: string) {
    enterLook(lookId)
    add({ kind: 'note', look: lookId, note })
    const at = view.value?.looks?.find((l) => l.id === lookId)
    if (at) at.note = note
  }

  function setFacts(facts: Facts) {
    add({ kind: 'facts', facts })
    if (view.value) Object.assign(view.value.facts, facts)
  }

  type Name = NonNullable<Entry['name']>
  const giveName = (rank: Name['rank'], name: string, why: string, seen: '' | NonNullable<Name['seen']> = '') =>
    add({ kind: 'name', name: { rank, name, why, ...(seen ? { seen } : {}) } })

  return {
    view,
    look,
    looks,
    unlooked,
    draft,
    openLook,
    wanted,
    wantedAfter,
    naming,
    error,
    rejected,
    offline,
    waiting,
    sending,
    hand,
    current,
    act,
    undo,
    redo,
    canUndo: computed(() => act.value !== undefined),
    canRedo: computed(() => undos.value.length > 0),
    open,
    leave,
    refresh,
    addLook,
    leaveLook,
    goTo,
    scoreNext,
    score,
    withdraw,
    noteLook,
    setFacts,
    giveName,
  }
})
