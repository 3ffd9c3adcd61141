import { nextTick } from 'vue'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { mount } from '../testing/mount'
import { server } from '../testing/server'

vi.mock('vue-router', () => ({ useRouter: () => ({ push: pushed }), RouterLink: { template: '<a><slot /></a>' } }))
vi.mock('primevue/useconfirm', () => ({ useConfirm: () => ({ require: confirmed }) }))
const pushed = vi.fn()
const confirmed = vi.fn((question: { accept: () => void }) => question.accept())
const book = server()
const { giveWords } = await import('../testing/words')
const { useTree } = await import('../desk/tree')
const CompositionChart = (await import('../stands/CompositionChart.vue')).default
const HereRanking = (await import('../standing/HereRanking.vue')).default
const ImportFile = (await import('../files/ImportFile.vue')).default
const ImportPreview = (await import('../files/ImportPreview.vue')).default
const OpenTree = (await import('./OpenTree.vue')).default
const StandingChart = (await import('./StoryChart.vue')).default
const StoryStep = (await import('./StoryStep.vue')).default
const TreeDetails = (await import('./TreeDetails.vue')).default
const VisitList = (await import('../stands/VisitList.vue')).default

type Page = ReturnType<typeof mount>
const all = (page: Page, css: string) => [...page.root.querySelectorAll<HTMLElement>(css)]

async function type(page: Page, css: string, value: string) {
  const field = page.find(css) as HTMLInputElement
  field.value = value
  field.dispatchEvent(new Event('input'))
  field.dispatchEvent(new Event('change'))
  await nextTick()
}

/** Mounts with the words that the book would give. */
async function shown(component: Parameters<typeof mount>[0], props: Record<string, unknown>): Promise<Page> {
  const page = mount(component, props)
  giveWords()
  await nextTick()
  return page
}

beforeEach(() => {
  book.forget()
  localStorage.clear()
  pushed.mockClear()
})

describe('what grows here', () => {
  const share = (taxon: string, english: string, stems: number, area: number) => ({
    taxon,
    english,
    stems,
    stems_from: stems - 1,
    stems_to: stems + 1,
    area_m2: area,
    area_from_m2: area - 0.1,
    area_to_m2: area + 0.1,
    determined: 2,
  })
  const composition = {
    trees: 10,
    determined: 4,
    area_m2: 2,
    note: 'doubt about names only',
    shares: [share('Acer rubrum', 'red maple', 6, 0.5), share('Acer saccharum', 'sugar maple', 4, 1.5)],
  }
  it('counts by stems with its range', async () => {
    const page = await shown(CompositionChart, { composition })
    expect(all(page, 'tbody tr').map((r) => r.textContent?.replace(/\s+/g, ' ').trim())).toEqual([
      'Red mapleAcer rubrum 6 (5 to 7) 60 % 2',
      'Sugar mapleAcer saccharum 4 (3 to 5) 40 % 2',
    ])
    expect(page.text()).toContain('doubt about names only')
  })
  it('puts the largest first by basal area too', async () => {
    const page = await shown(CompositionChart, { composition })
    await page.press('[data-by="area"]')
    expect(all(page, 'tbody th').map((r) => r.textContent)).toEqual(['Sugar mapleAcer saccharum', 'Red mapleAcer rubrum'])
    expect(page.text()).toContain('75 %')
  })
  it('says so where nothing is', async () => {
    expect((await shown(CompositionChart, { composition: { ...composition, trees: 0, shares: [] } })).text()).toContain('No trees here yet')
  })
})

describe('an open tree', () => {
  const tree = {
    id: 't',
    tag: 'LC-1',
    stand: 'North cove',
    status: 'open',
    scores: 3,
    between: 'Red maple or sugar maple',
    why: '',
    look: 'Bud colour: In daylight.',
    home: true,
    next: 'bud.color',
    next_from: 'tree',
    next_bits: 1.25,
    next_seconds: 10,
    back: [{ id: 'swell', words: 'buds swell', from: '2027-03-20', to: '2027-04-28', separate: true }],
  }
  it('says who it could be, the one look, and when to come back', async () => {
    const text = (await shown(OpenTree, { tree })).text()
    for (const part of [
      'Red maple or sugar maple',
      'Bud colour: In daylight.',
      'twig in hand',
      '1.3 bits in 10 s',
      'when buds swell',
      'tells the first two apart',
    ])
      expect(text).toContain(part)
  })
  it('opens the desk at that look', async () => {
    const page = await shown(OpenTree, { tree })
    await page.press('[data-take]')
    expect(useTree().wantedAfter).toEqual({ character: 'bud.color', from: 'tree' })
    expect(pushed).toHaveBeenCalledWith({ name: 'tree', params: { id: 't' } })
  })
  it('says what is the matter with a doubtful one, and where no look helps', async () => {
    expect(
      (await shown(OpenTree, { tree: { ...tree, status: 'doubtful', why: 'The evidence gives this name 9 %.' } })).find('.why')
        ?.textContent,
    ).toBe('The evidence gives this name 9 %.')
    expect((await shown(OpenTree, { tree: { ...tree, look: '' } })).text()).toContain('No look within reach would help')
  })
})

describe('a step of the story', () => {
  const step = {
    entry: 'e',
    kind: 'name',
    at: '2026-11-17T09:41:00Z',
    by: 'Wren Halloran',
    words: 'Named Acer rubrum',
    undo: true,
    then: 'The evidence then gave it 93 %.',
    leads: 'red maple, 96 %',
    posteriors: [],
  }
  it('tells a name, what the evidence gave it then, and what speaks against it now', async () => {
    const text = (await shown(StoryStep, { step: { ...step, flag: 'It would take 90 %.' }, wrong: '' })).text()
    for (const part of ['Named Acer rubrum', 'then gave it 93 %', 'It would take 90 %.', 'red maple, 96 %', 'Wren Halloran'])
      expect(text).toContain(part)
  })
  it('is undone by its button, and not where it cannot be', async () => {
    const undone = vi.fn()
    const page = await shown(StoryStep, { step, wrong: '', onUndo: undone })
    await page.press('button')
    expect(undone).toHaveBeenCalledOnce()
    const gone = await shown(StoryStep, { step: { ...step, gone: true, undo: false }, wrong: 'not now' })
    expect(gone.find('button')).toBeNull()
    expect(gone.text()).toContain('does not stand any more')
    expect(gone.find('[role="alert"]')?.textContent).toBe('not now')
  })
})

describe('how it stood', () => {
  it('draws a line for each tree that led, the leader first, and a flag for each name', async () => {
    const at = (kind: string, ...posteriors: number[]) => ({ entry: kind + posteriors, kind, posteriors, flag: '' })
    const page = await shown(StandingChart, {
      story: {
        taxa: [
          { taxon: 'Acer rubrum', english: 'red maple', posterior: 0.1 },
          { taxon: 'Acer saccharum', english: 'sugar maple', posterior: 0.9 },
        ],
        steps: [at('look', 0, 0), at('score', 0.7, 0.2), at('score', 0.1, 0.9), at('name', 0.1, 0.9)],
      },
    })
    expect(all(page, 'figure > svg path')).toHaveLength(2)
    expect(all(page, '.flag')).toHaveLength(1)
    expect(page.find('figure > svg')?.getAttribute('aria-label')).toBe('sugar maple now 90 %, red maple now 10 %')
    expect(page.find('figure > svg path')?.getAttribute('d')?.match(/[ML]/g)).toHaveLength(3)
  })
})

describe('expecting the rest of the stand', () => {
  it('asks nothing until it is switched on', async () => {
    book.on('GET /api/trees/t/here', {
      trees: 12,
      note: 'you may see what you expect',
      ranking: [{ taxon: 'Acer rubrum', english: 'red maple', posterior: 0.8 }],
    })
    const page = await shown(HereRanking, { tree: 't', scored: '1' })
    await nextTick()
    expect(book.asked).toHaveLength(0)
    await page.press('[data-here]')
    await vi.waitFor(() => expect(page.text()).toContain('Red maple 80 %'))
    expect(page.text()).toContain('you may see what you expect')
  })
})

describe('a visit', () => {
  it('is entered, changed and kept', async () => {
    book.on('GET /api/visits', [
      {
        id: 'v'.repeat(26),
        tract: 'Lantern Creek',
        day: '2026-11-17',
        crew: '',
        snow: 'deep',
        snow_words: 'deep snow',
        trees: 3,
        looks: 9,
      },
    ])
    const page = await shown(VisitList, { tract: 'Lantern Creek' })
    await vi.waitFor(() => expect(page.text()).toContain('3 trees, 9 looks'))
    expect(page.text()).toContain('deep snow')
    await page.press('[data-new-visit]')
    await type(page, 'form label:nth-of-type(2) input', 'Marit Sandoval')
    await page.press('form [type="submit"]')
    await vi.waitFor(() => expect(book.last('PUT')?.body).toMatchObject({ tract: 'Lantern Creek', crew: 'Marit Sandoval', snow: 'none' }))
    await vi.waitFor(() => expect(page.find('form')).toBeNull())
  })
  it('stays on the screen when it cannot be kept', async () => {
    book.on('GET /api/visits', [])
    const page = await shown(VisitList, { tract: 'Lantern Creek' })
    await page.press('[data-new-visit]')
    await type(page, 'form label:nth-of-type(2) input', 'Marit Sandoval')
    book.on('PUT /api/visits', { errors: [{ message: 'expected a day' }] })
    await page.press('form [type="submit"]')
    await vi.waitFor(() => expect(page.find('[role="alert"]')?.textContent?.trim()).toBe('expected a day'))
    expect((page.find('form label:nth-of-type(2) input') as HTMLInputElement).value).toBe('Marit Sandoval')
  })
})

describe("a tree's details", () => {
  const tree = { id: 't', tag: 'LC-1', tract: 'Lantern Creek', stand: 'Upper slope', region: '' }
  const facts = { age: 'mature', vigour: '', remarks: '', height_m: 0, position: { lat: 43.5, lon: -90.6 } }
  it('keeps only what was changed', async () => {
    const page = await shown(TreeDetails, { tree, facts })
    expect(page.text()).toContain('43.50000, -90.60000 · mature')
    await page.press('[data-details]')
    await type(page, '#lat', '43.56')
    await page.press('form [type="submit"]')
    await vi.waitFor(() => expect(book.last('POST')?.path).toBe('/api/trees/t/entries'))
    expect(book.last('POST')?.body).toMatchObject({ kind: 'facts', facts: { position: { lat: 43.56, lon: -90.6 } } })
    expect(Object.keys((book.last('POST')?.body as { facts: object }).facts)).toEqual(['position'])
    expect(book.last('PUT')).toBeUndefined()
  })
  it('moves a tree that got another tag', async () => {
    const page = await shown(TreeDetails, { tree, facts })
    await page.press('[data-details]')
    await type(page, 'form input', 'LC-2')
    await page.press('form [type="submit"]')
    await vi.waitFor(() =>
      expect(book.last('POST')).toMatchObject({ path: '/api/trees/t/move', body: { tag: 'LC-2', stand: 'Upper slope' } }),
    )
    expect(book.asked.filter((a) => a.method === 'POST')).toHaveLength(1)
  })
  it('sets a tree aside that was entered by mistake, and takes it back', async () => {
    const page = await shown(TreeDetails, { tree, facts })
    await page.press('[data-details]')
    await page.press('[data-aside]')
    expect(confirmed).toHaveBeenCalledOnce()
    await vi.waitFor(() => expect(book.last('POST')?.body).toMatchObject({ kind: 'facts', facts: { aside: true } }))
    const gone = await shown(TreeDetails, { tree, facts: { ...facts, aside: true } })
    expect(gone.text()).toContain('entered by mistake')
    await gone.press('[data-bring-back]')
    await vi.waitFor(() => expect(book.last('POST')?.body).toMatchObject({ facts: { aside: false } }))
  })
  it('asks for both figures of a position', async () => {
    const page = await shown(TreeDetails, { tree, facts })
    await page.press('[data-details]')
    await type(page, '#lat', '')
    await page.press('form [type="submit"]')
    expect(page.find('[role="alert"]')?.textContent).toContain('needs both figures')
    expect(book.asked.filter((a) => a.method !== 'GET')).toHaveLength(0)
  })
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
    await vi.waitFor(() => expect(page.text()).toContain('1 trees are in the book'))
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
      preview: { ...mapped, good: 2, lines: [...mapped.lines, line(3)], total: 4 },
      modelValue: null,
      'onUpdate:modelValue': (v: number[] | null) => taken.push(v),
    })
    const boxes = all(page, 'tbody input[type="checkbox"]')
    expect(boxes).toHaveLength(2)
    expect(page.text()).toContain('there is no tract')
    expect(page.text()).toContain('in the book already')
    boxes[0].dispatchEvent(new Event('change'))
    await nextTick()
    expect(taken).toEqual([[3]])
  })
})
