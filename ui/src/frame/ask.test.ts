import { describe, expect, it } from 'vitest'
import { useAsk } from './ask'

const response = new Response()

describe('asking the book', () => {
  it('hears only the last of several questions, whichever is answered first', async () => {
    const { ask, busy, wrong } = useAsk()
    let answer: (given: { data: number; response: Response }) => void = () => undefined
    let fail: (why: Error) => void = () => undefined
    const slow = ask<number>(new Promise((resolve) => (answer = resolve)))
    const lost = ask<number>(new Promise((_, reject) => (fail = reject)))
    const last = await ask(Promise.resolve({ data: 3, response }))
    expect(last).toEqual({ ok: true, data: 3 })
    answer({ data: 1, response })
    fail(new Error('no connection'))
    expect(await slow).toEqual({ ok: false, overtaken: true })
    expect(await lost).toEqual({ ok: false, overtaken: true })
    expect([busy.value, wrong.value]).toEqual([false, []])
  })
  it('says that there is no connection, and that what was typed is there', async () => {
    const { ask, wrong } = useAsk({ typed: true })
    expect(await ask(Promise.reject(new Error('down')))).toEqual({ ok: false })
    expect(wrong.value[0]).toContain('What you typed is still here')
  })
})
