import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Entry, LookView } from '../api/client'
import { freshPinia } from '../testing/pinia'

/** Ids that the books of earlier tests were told: an outbox that is still at work may tell them again. */
const earlier = new Set<string>()

/** A book in memory that answers like the server: entries in, the tree out. */
class Book {
  entries: Entry[] = []
  down = false
  refuses = ''
  stumbles = ''
  asked: string[] = []
  answer = async (request: Request): Promise<Response> => {
    this.asked.push(request.method)
    if (this.down) throw new TypeError('no connection')
    if (request.method === 'POST') {
      const entry = (await request.json()) as Entry
      if (entry.score?.character === this.stumbles) return Response.json({ detail: 'the disk is full' }, { status: 507 })
      if (entry.score?.character === this.refuses)
        return Response.json({ errors: [{ message: `unknown character "${this.refuses}"` }] }, { status: 422 })
      if (!earlier.has(entry.id) && !this.entries.some((e) => e.id === entry.id)) this.entries.push(entry)
    }
    const revision = `"${this.entries.length}"`
    if (request.headers.get('If-None-Match') === revision) return new Response(null, { status: 304 })
    return Response.json(this.tree(), { headers: { ETag: revision } })
  }
  tree() {
    const looks: Partial<LookView>[] = []
    const undone = (id: string): boolean => this.entries.some((u) => u.kind === 'undo' && u.entry === id && !undone(u.id))
    const stands = this.entries.filter((e) => !undone(e.id) && e.kind !== 'undo')
    for (const e of stands) {
      if (e.kind === 'look') looks.push({ id: e.id, from: e.from, note: '', scores: [] })
      const at = looks.find((l) => l.id === e.look)
      if (e.kind === 'score' && at && e.score)
        at.scores = [
          ...(at.scores ?? []).filter((s) => s.character !== e.score?.character),
          { entry: e.id, name: '', words: '', ...e.score },
        ]
      for (const l of looks) l.scores = l.scores?.filter((s) => s.entry !== e.entry)
      if (e.kind === 'withdraw') looks.splice(0, looks.length, ...looks.filter((l) => l.id !== e.entry))
    }
    const last = stands.at(-1)
    const acts = last ? [{ by: '', entry: last.id, words: last.kind }] : []
    const snow = stands.findLast((e) => e.facts)?.facts?.snow ?? 'none'
    return { tree: { id: 'LC-1' }, looks, facts: { snow }, result: {}, acts, seen: `stamp ${this.entries.length}` }
  }
  states = () => this.tree().looks.flatMap((l) => (l.scores ?? []).map((s) => `${s.character}=${s.states?.join()}`))
}

const book = { now: new Book() }
// The client keeps the fetch it found when it was made.
vi.stubGlobal('fetch', (request: Request) => book.now.answer(request))
const { useTree } = await import('./tree')
const { useOutbox } = await import('../frame/outbox')
const { giveWords } = await import('../testing/words')

const settled = (tree: ReturnType<typeof useTree>) => vi.waitFor(() => expect(tree.waiting).toBe(0))

async function opened() {
  freshPinia()
  giveWords()
  const tree = useTree()
  await tree.open('LC-1')
  return tree
}

const hair = (state: string) => ({ character: 'twig.hair', states: [state] })

beforeEach(() => {
  localStorage.clear()
  for (const e of book.now.entries) earlier.add(e.id)
  book.now = new Book()
})

describe('what is pressed', () => {
  it('shows at once and is sent in order', async () => {
    const tree = await opened()
    tree.addLook('tree')
    tree.score(hair('none'))
    expect(tree.look?.scores?.[0].states).toEqual(['none'])
    expect(tree.waiting).toBe(2)
    await settled(tree)
    expect(book.now.entries.map((e) => e.kind)).toEqual(['look', 'score'])
    expect(book.now.entries[0].id < book.now.entries[1].id).toBe(true)
    expect(Object.keys(localStorage)).toEqual([])
  })
  it('replaces an earlier score of the same thing in the same place', async () => {
    const tree = await opened()
    tree.addLook('tree')
    tree.score({ character: 'bark.texture', states: ['smooth'], zone: 'upper' })
    tree.score({ character: 'bark.texture', states: ['plates'] })
    tree.score({ character: 'bark.texture', states: ['long-ridges'], zone: 'breast' })
    expect(tree.look?.scores?.map((s) => s.states?.[0])).toEqual(['smooth', 'long-ridges'])
    await settled(tree)
  })
})

describe('a lost connection', () => {
  it('keeps what was pressed and sends it when it returns', async () => {
    const tree = await opened()
    book.now.down = true
    tree.addLook('tree')
    tree.score(hair('downy'))
    await vi.waitFor(() => expect(tree.offline).toBe(true))
    expect(Object.keys(localStorage)).toHaveLength(2)
    expect(book.now.entries).toEqual([])
    book.now.down = false
    await useOutbox().resume()
    expect(book.now.states()).toEqual(['twig.hair=downy'])
    expect(tree.offline).toBe(false)
    expect(book.now.entries.map((e) => e.seen)).toEqual(['stamp 0', 'stamp 0'])
    tree.score(hair('none'))
    await settled(tree)
    expect(book.now.entries[2].seen).toBeUndefined()
  })
  it('is survived by the next window', async () => {
    const before = await opened()
    book.now.down = true
    before.addLook('tree')
    before.score(hair('velvety'))
    await vi.waitFor(() => expect(before.offline).toBe(true))
    book.now.down = false
    const after = await opened()
    expect(book.now.states()).toEqual(['twig.hair=velvety'])
    expect(after.look?.scores?.[0].states).toEqual(['velvety'])
  })
})

it('what the book refuses is said, taken off the page and not sent again', async () => {
  const tree = await opened()
  tree.addLook('tree')
  book.now.refuses = 'twig.misspelt'
  tree.score({ character: 'twig.misspelt', states: ['none'] })
  await settled(tree)
  expect(tree.rejected).toMatchObject({ character: 'twig.misspelt', lines: ['Unknown character "twig.misspelt"'] })
  await vi.waitFor(() => expect(tree.look?.scores).toEqual([]))
  expect(Object.keys(localStorage)).toEqual([])
})

it('what the book stumbles over holds up neither the other scores nor what is shown of them', async () => {
  const tree = await opened()
  tree.addLook('tree')
  book.now.stumbles = 'twig.pith'
  tree.score({ character: 'twig.pith', states: ['solid'] })
  tree.score(hair('downy'))
  await vi.waitFor(() => expect(book.now.states()).toEqual(['twig.hair=downy']))
  await vi.waitFor(() => expect(tree.sending).toBe(false))
  expect(tree.view?.seen).toBe('stamp 2')
  expect(tree.waiting).toBe(1)
  book.now.stumbles = ''
  await useOutbox().resume()
  expect(book.now.states()).toEqual(['twig.hair=downy', 'twig.pith=solid'])
})

describe('undo and redo', () => {
  it('go back over scores, and leave a line of each in the log', async () => {
    const tree = await opened()
    tree.addLook('tree')
    tree.score(hair('none'))
    tree.score(hair('downy'))
    tree.undo()
    expect(tree.look?.scores?.[0].states).toEqual(['none'])
    tree.undo()
    expect(tree.look?.scores).toEqual([])
    tree.redo()
    tree.redo()
    await settled(tree)
    expect(book.now.states()).toEqual(['twig.hair=downy'])
    expect(book.now.entries.map((e) => e.kind)).toEqual(['look', 'score', 'score', 'undo', 'undo', 'undo', 'undo'])
    expect(tree.canRedo).toBe(false)
  })
  it('take back what was done last, whatever it was and in whichever window', async () => {
    const before = await opened()
    before.addLook('tree')
    before.noteLook(before.openLook, 'north side')
    before.giveName('genus', 'Acer', '')
    await settled(before)
    const tree = await opened()
    for (const kind of ['name', 'note', 'look']) {
      expect(tree.act?.words).toBe(kind)
      tree.undo()
      await settled(tree)
    }
    expect(tree.canUndo).toBe(false)
    expect(tree.view?.looks).toEqual([])
    tree.redo()
    await settled(tree)
    expect(tree.view?.looks).toHaveLength(1)
  })
  it('bring a withdrawn look back whole, in its place', async () => {
    const tree = await opened()
    const id = tree.addLook('fallen')
    tree.score(hair('none'))
    tree.withdraw(id)
    expect(tree.view?.looks).toEqual([])
    tree.undo()
    await settled(tree)
    expect(book.now.states()).toEqual(['twig.hair=none'])
    expect(tree.look?.from).toBe('fallen')
  })
  it('take facts back', async () => {
    const tree = await opened()
    tree.setFacts({ snow: 'deep' })
    tree.undo()
    await settled(tree)
    expect(book.now.entries.map((e) => e.kind)).toEqual(['facts', 'undo'])
    expect(tree.view?.facts.snow).toBe('none')
  })
})

it('a suggestion opens the slip that shows it, or begins one', async () => {
  const tree = await opened()
  tree.scoreNext('ground.fruit')
  expect(tree.look?.from).toBe('litter')
  expect(tree.wanted).toBe('ground.fruit')
  tree.score({ character: 'ground.fruit', states: ['none'] })
  const litter = tree.openLook
  tree.scoreNext('bark.texture')
  expect(tree.look?.from).toBe('tree')
  tree.scoreNext('ground.fruit')
  expect(tree.openLook).toBe(litter)
  await settled(tree)
})

it('a look that was only begun leaves nothing', async () => {
  const tree = await opened()
  tree.addLook('tree')
  tree.scoreNext('ground.fruit') // what was to be looked at next
  tree.leaveLook()
  expect(tree.looks).toEqual([])
  tree.addLook('crown')
  tree.noteLook(tree.openLook, 'through glasses')
  await settled(tree)
  expect(book.now.entries.map((e) => e.kind)).toEqual(['look', 'note'])
})

it('what did not change in another window is not sent or drawn again', async () => {
  const tree = await opened()
  const before = tree.view
  await tree.refresh()
  expect(tree.view).toBe(before)
  book.now.entries.push({ id: '01', kind: 'look', from: 'fallen' } as Entry)
  await tree.refresh()
  expect(tree.view?.looks).toHaveLength(1)
})
