import { beforeEach, describe, expect, it } from 'vitest'
import { server } from '../testing/server'

const book = server()
const { settle, shown } = await import('../testing/page')
const { useMarks } = await import('./marks')

/** The marks of a photograph, as they were kept before. */
async function marking(kept = {}) {
  book.on('GET /api/photos/p/marks', { photo: 'p', lines: [], bends: [], tally: [], ...kept })
  book.on('POST /api/marks', { lines: [] })
  book.on('POST /api/trees/t/entries', {})
  let marks!: ReturnType<typeof useMarks>
  await shown({ setup: () => ((marks = useMarks('p', 't')), () => null) }, {})
  await marks.load()
  return marks
}
beforeEach(() => book.forget())
const entries = () =>
  book.asked.filter((a) => a.path.endsWith('/entries')).map((a) => a.body as { kind: string; look?: string; id: string })

describe('marks', () => {
  it('are made once all their presses are there, the known length first', async () => {
    const m = await marking()
    m.press('line', [0.1, 0.1])
    expect(m.marks.value.lines).toEqual([])
    m.press('line', [0.2, 0.2])
    m.press('known', [0, 0])
    m.press('known', [1, 0])
    expect(m.marks.value.lines?.[0]).toEqual({ from: [0, 0], to: [1, 0] })
    expect(m.changed.value).toBe(true)
  })
  it('are taken back press by press, then mark by mark, the last first', async () => {
    const m = await marking()
    m.press('count', [0.1, 0.1])
    for (const at of [0.1, 0.2, 0.3]) m.press('bend', [at, at])
    m.press('bend', [0.9, 0.9])
    m.back()
    expect(m.marks.value.bends).toHaveLength(1)
    m.back()
    expect([m.marks.value.bends, m.marks.value.tally?.length]).toEqual([[], 1])
    m.back()
    expect(m.marks.value.tally).toEqual([])
  })
  it('are kept before what they give is scored, in a look of its own where none is chosen', async () => {
    const m = await marking()
    m.press('count', [0.5, 0.5])
    expect(await m.score({ character: 'bud.length', typed: '10 mm', name: 'bud length', words: '10 mm' } as never, '')).toBe(true)
    await settle()
    expect(entries().map((e) => e.kind)).toEqual(['marks', 'look', 'score'])
    expect(entries()[2]?.look).toBe(entries()[1]?.id)
    expect(m.changed.value).toBe(false)
  })
  it('stay as they are where the book refuses them', async () => {
    const m = await marking()
    book.on('POST /api/trees/t/entries', { detail: 'There is no such photograph.' })
    m.press('count', [0.5, 0.5])
    expect(await m.keep()).toBe(false)
    expect(m.changed.value).toBe(true)
    expect(m.wrong.value.join()).toContain('no such photograph')
  })
})
