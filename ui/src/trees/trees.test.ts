import { beforeEach, describe, expect, it, vi } from 'vitest'
import { server } from '../testing/server'

vi.mock('vue-router', () => ({ useRouter: () => ({ push: pushed }), RouterLink: { template: '<a><slot /></a>' } }))
vi.mock('primevue/useconfirm', () => ({ useConfirm: () => ({ require: confirmed }) }))
const pushed = vi.fn()
const confirmed = vi.fn((question: { accept: () => void }) => question.accept())
const book = server()
const { all, shown, type } = await import('../testing/page')
const { useTree } = await import('../desk/tree')
const OpenTree = (await import('./OpenTree.vue')).default
const StoryChart = (await import('./StoryChart.vue')).default
const StoryStep = (await import('./StoryStep.vue')).default
const TreeDetails = (await import('./TreeDetails.vue')).default

beforeEach(() => {
  book.forget()
  localStorage.clear()
  pushed.mockClear()
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
    look: 'Bud color: In daylight.',
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
      'Bud color: In daylight.',
      'twig in hand',
      'halves what is open, 10 s',
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
    const text = (await shown(StoryStep, { step: { ...step, flag: 'It would take 90 %.' }, own: true, wrong: '' })).text()
    for (const part of ['Named Acer rubrum', 'then gave it 93 %', 'It would take 90 %.', 'red maple, 96 %', 'Wren Halloran'])
      expect(text).toContain(part)
  })
  it('is undone by its button, and not where it cannot be', async () => {
    const undone = vi.fn()
    const page = await shown(StoryStep, { step, own: true, wrong: '', onUndo: undone })
    await page.press('button')
    expect(undone).toHaveBeenCalledOnce()
    expect((await shown(StoryStep, { step, own: false, wrong: '' })).find('button')).toBeNull()
    const gone = await shown(StoryStep, { step: { ...step, gone: true, undo: false }, own: true, wrong: 'not now' })
    expect(gone.find('button')).toBeNull()
    expect(gone.text()).toContain('does not stand any more')
    expect(gone.find('[role="alert"]')?.textContent).toBe('not now')
  })
})

describe('how it stood', () => {
  it('draws a line for each tree that led, the leader first, and a flag for each name', async () => {
    const at = (kind: string, ...posteriors: number[]) => ({ entry: kind + posteriors, kind, posteriors, flag: '' })
    const page = await shown(StoryChart, {
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
  it('says why a tree cannot be taken back', async () => {
    const page = await shown(TreeDetails, { tree, facts: { ...facts, aside: true } })
    book.on('POST /api/trees/t/entries', { status: 409, detail: 'Choose another tag, or open the tree that has it' })
    await page.press('[data-bring-back]')
    await vi.waitFor(() => expect(page.text()).toContain('Choose another tag'))
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
