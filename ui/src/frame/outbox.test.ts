import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Entry } from '../api/client'
import { freshPinia } from '../testing/pinia'

/** A book that takes entries, stumbles over some, and has somebody signed in. */
const book = { taken: [] as Entry[], who: '', stumbles: '', refuses: '', down: false }
vi.stubGlobal('fetch', async (request: Request) => {
  if (book.down) throw new TypeError('no connection')
  if (request.url.endsWith('/api/session')) return Response.json({ needed: true, name: book.who, role: book.who && 'observer' })
  const e = (await request.json()) as Entry
  if (!book.who || (e.by && e.by !== book.who)) return Response.json({ detail: 'sign in first' }, { status: 401 })
  if (e.id === book.stumbles) return Response.json({ detail: 'the disk is full' }, { status: 507 })
  if (e.id === book.refuses) return Response.json({ errors: [{ message: 'no such look' }] }, { status: 422 })
  book.taken.push(e)
  return Response.json({})
})
const { useOutbox } = await import('./outbox')
const { useSession } = await import('./session')

const entry = (id: string, more: Partial<Entry> = {}): Entry => ({ id, kind: 'look', from: 'tree', by: 'Marit Sandoval', ...more })
const of = (e: Entry) => ({ tree: 'T', tag: 'LC-1', entry: e })
const ids = () => book.taken.map((e) => e.id)

async function signedIn(as: string) {
  freshPinia()
  book.who = as
  await useSession().load()
  const outbox = useOutbox()
  outbox.adopt()
  return outbox
}

beforeEach(() => {
  localStorage.clear()
  Object.assign(book, { taken: [], who: '', stumbles: '', refuses: '', down: false })
})

describe('what waits to be sent', () => {
  it('is not held up by one that the book stumbles over, but for what stands on it', async () => {
    const outbox = await signedIn('Marit Sandoval')
    book.stumbles = 'b'
    for (const e of [entry('a'), entry('b'), entry('c', { kind: 'note', look: 'b', note: 'north' }), entry('d')]) outbox.add(of(e))
    await vi.waitFor(() => expect(ids()).toEqual(['a', 'd']))
    expect(outbox.offline).toBe(false)
    expect(outbox.waiting.map((w) => [w.entry.id, w.stumbled?.[0]])).toEqual([
      ['b', 'The disk is full'],
      ['c', undefined],
    ])
    book.stumbles = ''
    await outbox.resume()
    expect(ids()).toEqual(['a', 'd', 'b', 'c'])
    expect(Object.keys(localStorage)).toEqual([])
  })
  it('stays to be looked at where the book refused it and nobody saw it', async () => {
    const outbox = await signedIn('Marit Sandoval')
    book.refuses = 'a'
    outbox.add(of(entry('a')))
    await vi.waitFor(() => expect(outbox.refused.map((w) => w.refused)).toEqual([['No such look']]))
    expect(outbox.waiting).toEqual([])
    const later = await signedIn('Marit Sandoval')
    expect(later.refused).toHaveLength(1)
    book.refuses = ''
    later.sendAgain('a')
    await vi.waitFor(() => expect(ids()).toEqual(['a']))
  })
})

describe('another person on the same device', () => {
  it('does not send what somebody else made', async () => {
    const first = await signedIn('Marit Sandoval')
    book.down = true
    first.add(of(entry('a')))
    await vi.waitFor(() => expect(first.offline).toBe(true))
    book.down = false
    const second = await signedIn('Tobias Okafor')
    await second.flush(true)
    expect(ids()).toEqual([])
    expect(second.others.map((w) => w.entry.by)).toEqual(['Marit Sandoval'])
    second.add(of(entry('b', { by: 'Tobias Okafor' })))
    await vi.waitFor(() => expect(ids()).toEqual(['b']))
    const third = await signedIn('Marit Sandoval')
    await third.flush(true)
    expect(ids()).toEqual(['b', 'a'])
  })
  it('whose session took over in another window is not given what was pressed here', async () => {
    const outbox = await signedIn('Marit Sandoval')
    book.who = 'Tobias Okafor'
    outbox.add(of(entry('a')))
    await vi.waitFor(() => expect(useSession().name).toBe('Tobias Okafor'))
    expect(ids()).toEqual([])
    expect(outbox.others).toHaveLength(1)
  })
  it('may say that what has no name is their own', async () => {
    localStorage.setItem('palethicket.entry.a', JSON.stringify(of(entry('a', { by: undefined }))))
    const outbox = await signedIn('Marit Sandoval')
    await outbox.flush(true)
    expect(ids()).toEqual([])
    outbox.claim()
    await vi.waitFor(() => expect(book.taken.map((e) => e.by)).toEqual(['Marit Sandoval']))
  })
})

it('a session that ended says so, and what was entered stays', async () => {
  const outbox = await signedIn('Marit Sandoval')
  book.who = ''
  outbox.add(of(entry('a')))
  await vi.waitFor(() => expect(useSession().ended).toBe('Marit Sandoval'))
  expect(ids()).toEqual([])
  expect(Object.keys(localStorage)).toEqual(['palethicket.entry.a'])
  book.who = 'Marit Sandoval'
  await useSession().load()
  await outbox.resume()
  expect(ids()).toEqual(['a'])
})

it('what cannot be read in the browser does not stop the rest', async () => {
  localStorage.setItem('palethicket.entry.0', '{half')
  localStorage.setItem('palethicket.entry.a', JSON.stringify(of(entry('a'))))
  const outbox = await signedIn('Marit Sandoval')
  await outbox.flush(true)
  expect(ids()).toEqual(['a'])
  expect(localStorage.getItem('palethicket.entry.0')).toBe('{half')
})
