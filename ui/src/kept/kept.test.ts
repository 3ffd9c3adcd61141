import { beforeEach, describe, expect, it, vi } from 'vitest'
import { server } from '../testing/server'

vi.mock('vue-router', () => ({
  useRouter: () => ({ push: vi.fn() }),
  useRoute: () => ({ path: '/waiting' }),
  RouterLink: { template: '<a><slot /></a>' },
}))
const confirmed = vi.fn((question: { accept: () => void }) => question.accept())
vi.mock('primevue/useconfirm', () => ({ useConfirm: () => ({ require: confirmed }) }))
const book = server()
const { all, shown } = await import('../testing/page')
const { useOutbox } = await import('../frame/outbox')
const { useVocabulary } = await import('../frame/vocabulary')
const { entryWords } = await import('./words')
const WaitingView = (await import('./WaitingView.vue')).default

const id = '01JD0000000000000000000001'
const entry = { id, kind: 'score' as const, look: 'l', score: { character: 'twig.hair', states: ['downy'] } }

beforeEach(() => {
  book.forget()
  localStorage.clear()
  vi.stubGlobal('matchMedia', () => ({ matches: false, addEventListener: () => {}, removeEventListener: () => {} }))
})

describe('what is kept on the device', () => {
  it('is shown with why the book would not have it, sent again, and thrown away only when asked', async () => {
    book.on('POST /api/trees/T/entries', { errors: [{ message: 'the tree has no such look' }] })
    localStorage.setItem(`palethicket.entry.${id}`, JSON.stringify({ tree: 'T', tag: 'LC-1', entry, refused: ['No such look'] }))
    const page = await shown(WaitingView, {})
    useOutbox().adopt()
    await vi.waitFor(() => expect(all(page, '[data-entry]')).toHaveLength(1))
    expect(page.text()).toContain('Not taken by the book: 1 entry')
    expect(page.text()).toContain('No such look')
    expect(page.text()).toContain('LC-1')
    await page.press('[data-entry] .press')
    await vi.waitFor(() => expect(page.text()).toContain('The tree has no such look'))
    await page.press('[data-entry] .quiet')
    expect(confirmed).toHaveBeenCalledOnce()
    await vi.waitFor(() => expect(page.text()).toContain('everything that was entered on this device is in the book'))
    expect(localStorage.getItem(`palethicket.entry.${id}`)).toBeNull()
  })
})

it.each([
  [{ kind: 'note', note: 'leans' }, 'Note: leans'],
  [{ kind: 'name', name: { rank: 'species', name: 'Acer rubrum' } }, 'Name: Acer rubrum'],
  [{ kind: 'facts', facts: { snow: 'deep' } }, 'About the tree: snow'],
  [{ kind: 'undo', entry: 'x' }, 'Something undone'],
  [{ kind: 'withdraw', entry: 'x' }, 'Something taken back'],
  [{ kind: 'score', score: { character: 'twig.arrangement', pairs: 2, nodes: 3 } }, '2 pairs in 3 nodes'],
] as const)('an entry is said in a line', async (e, says) => {
  await shown({ render: () => null }, {})
  expect(entryWords({ id, ...e } as never, useVocabulary())).toContain(says)
})
