import { nextTick } from 'vue'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { server } from '../testing/server'

const book = server()
const { all, shown, type } = await import('../testing/page')
const ImportFile = (await import('./ImportFile.vue')).default
const ImportPreview = (await import('./ImportPreview.vue')).default

beforeEach(() => {
  book.forget()
  localStorage.clear()
})

describe('a file to be put in', () => {
  const line = (n: number, more: object = {}) => ({
    line: n,
    at: `line ${n + 2}`,
    tag: `A-${n}`,
    stand: 'Old pasture',
    name: '',
    where: '',
    looks: 0,
    known: false,
    problems: [],
    ...more,
  })
  const preview = {
    id: 'i',
    name: 'old.csv',
    format: 'csv',
    columns: ['Number', 'Plot'],
    mapping: { columns: ['', 'stand'] },
    wrong: 'say which column holds the tag',
    total: 3,
    good: 0,
    bad: 0,
    known: 0,
    lines: [],
  }
  const mapped = {
    ...preview,
    mapping: { columns: ['tag', 'stand'] },
    wrong: '',
    good: 1,
    bad: 1,
    known: 1,
    lines: [line(1, { problems: ['there is no tract'] }), line(0), line(2, { known: true })],
  }
  const fields = [
    { id: 'tag', words: 'Tag' },
    { id: 'stand', words: 'Stand' },
  ]

  async function chosen() {
    book.on('POST /api/imports', preview)
    book.on('POST /api/imports/i/preview', preview)
    const page = await shown(ImportFile, { fields })
    const input = page.find('[data-import]') as HTMLInputElement
    Object.defineProperty(input, 'files', { value: [new File(['Number;Plot'], 'old.csv')] })
    Object.defineProperty(input, 'value', { value: '', writable: true })
    input.dispatchEvent(new Event('change'))
    await vi.waitFor(() => expect(page.text()).toContain('say which column holds the tag'))
    return page
  }
  it('is shown before anything goes in, and mapped by hand', async () => {
    const page = await chosen()
    expect(all(page, '[data-column="Number"] option').map((o) => o.textContent)).toEqual(['leave out', 'Tag', 'Stand'])
    expect((page.find('[data-put-in]') as HTMLButtonElement).disabled).toBe(true)
    book.on('POST /api/imports/i/preview', mapped)
    await type(page, '[data-column="Number"]', 'tag')
    await vi.waitFor(() => expect(page.text()).toContain('1 of 3 lines can go in'))
    expect(book.last('POST')?.body).toMatchObject({ columns: ['tag', 'stand'] })
    book.on('POST /api/imports/i', { id: 'i', done: 1, total: 1, ended: true, wrong: '', trees: 1 })
    await page.press('[data-put-in]')
    await vi.waitFor(() => expect(page.text()).toContain('1 tree is in the book'))
  })
  it('says why it failed, and that nothing went in', async () => {
    const page = await chosen()
    book.on('POST /api/imports/i/preview', mapped)
    await type(page, '[data-column="Number"]', 'tag')
    await vi.waitFor(() => expect(page.text()).toContain('1 of 3'))
    book.on('POST /api/imports/i', { id: 'i', done: 0, total: 1, ended: true, wrong: 'the disk is full; nothing was put in', trees: 0 })
    await page.press('[data-put-in]')
    await vi.waitFor(() => expect(page.find('[role="alert"]')?.textContent).toBe('the disk is full; nothing was put in'))
    expect(page.text()).toContain('old.csv')
  })
  it('lets lines be left out one by one', async () => {
    const taken: (number[] | null)[] = []
    const page = await shown(ImportPreview, {
      preview: {
        ...mapped,
        faults: [{ says: 'There is no tract', lines: 1, at: ['line 3'] }],
        good: 2,
        lines: [...mapped.lines, line(3)],
        total: 4,
      },
      modelValue: null,
      'onUpdate:modelValue': (v: number[] | null) => taken.push(v),
    })
    const boxes = all(page, 'tbody input[type="checkbox"]')
    expect(boxes).toHaveLength(2)
    expect(page.text()).toContain('There is no tract')
    expect(page.text()).toContain('in the book already')
    boxes[0].dispatchEvent(new Event('change'))
    await nextTick()
    expect(taken).toEqual([[3]])
  })
})
