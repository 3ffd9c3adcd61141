import { beforeEach, describe, expect, it } from 'vitest'
import { server } from '../testing/server'
import { freshPinia } from '../testing/pinia'

const book = server()
const { useSession } = await import('./session')

beforeEach(() => {
  localStorage.clear()
  freshPinia()
  book.forget()
})

describe('who is at work', () => {
  it('is whoever says so on their own machine', async () => {
    book.on('GET /api/session', { needed: false, name: '', role: 'lead' })
    const session = useSession()
    expect(session.ready).toBe(false)
    await session.load()
    expect(session.ready).toBe(true)
    session.own = 'Wren Halloran'
    expect(session.name).toBe('Wren Halloran')
    expect(session.may('lead')).toBe(true)
  })
  it('is the one signed in beyond it, and no other', async () => {
    book.on('GET /api/session', { needed: true, name: '', role: '' })
    const session = useSession()
    session.own = 'Somebody else'
    await session.load()
    expect(session.ready).toBe(false)
    book.on('POST /api/session', { status: 401, detail: 'no such name and password' })
    await session.signIn('Tobias Okafor', 'wrong')
    expect(session.wrong).toEqual(['No such name and password'])
    expect(session.ready).toBe(false)
    book.on('POST /api/session', { needed: true, name: 'Tobias Okafor', role: 'observer' })
    await session.signIn('Tobias Okafor', 'seven cold mornings')
    expect(session.wrong).toEqual([])
    expect([session.ready, session.name, session.may('observer'), session.may('lead')]).toEqual([true, 'Tobias Okafor', true, false])
    book.on('DELETE /api/session', { needed: true, name: '', role: '' })
    await session.signOut()
    expect(session.ready).toBe(false)
  })
  it('keeps trying without a connection', async () => {
    const session = useSession()
    book.connect(false)
    await session.signIn('a', 'b')
    expect(session.wrong).toEqual(['No connection to the book. What you typed is still here; try again.'])
  })
})
