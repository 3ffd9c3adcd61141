import { nextTick } from 'vue'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { server } from '../testing/server'

const asked = vi.fn()
vi.mock('primevue/useconfirm', () => ({ useConfirm: () => ({ require: asked }) }))

const book = server()
const { mount } = await import('../testing/mount')
const { shown } = await import('../testing/page')
const { useTree } = await import('../desk/tree')
const BitsBar = (await import('./BitsBar.vue')).default
const GiveName = (await import('./GiveName.vue')).default
const HereRanking = (await import('./HereRanking.vue')).default
const StandingPanel = (await import('./StandingPanel.vue')).default
const { useVocabulary } = await import('../frame/vocabulary')
const TwoLooks = (await import('./TwoLooks.vue')).default
const StandingLadder = (await import('./StandingLadder.vue')).default

beforeEach(() => {
  book.forget()
  localStorage.clear()
})

describe('what is shown of the standing', () => {
  it.each([
    [0.2, 'even'],
    [2, '4 times likelier if red oak'],
    [-4, '16 times likelier if black oak'],
    [-12, 'more than 1 000 times likelier if black oak'],
  ])('%d bits', (bits, words) => {
    const page = mount(BitsBar, { bits, label: 'bud', a: 'red oak', b: 'black oak' })
    expect(page.find('.words')?.textContent).toBe(words)
  })
  it('a ladder of six, and the others together', async () => {
    const ranking = [0.5, 0.2, 0.1, 0.08, 0.05, 0.03, 0.02, 0.02].map((posterior, i) => ({
      taxon: `t${i}`,
      english: `tree ${i}`,
      posterior,
    }))
    const page = mount(StandingLadder, { ranking, credible: 6 })
    expect(page.root.querySelectorAll('li')).toHaveLength(6)
    expect(page.text()).toContain('The first 6 together hold 95 %')
    expect(page.text()).toContain('The others, 4 % together')
    await page.press('[aria-expanded]')
    expect(page.root.querySelectorAll('li')).toHaveLength(8)
  })
})

describe('two looks ahead', () => {
  it('asks once it is opened', async () => {
    const then = [
      { answer: 'in pairs', chance: 0.8, leader: 'red maple', settled: false, next: 'bud.coat', name: 'bud coat' },
      { answer: 'singly', chance: 0.2, leader: 'red oak', settled: true },
    ]
    book.on('GET /api/trees/t/ahead', { first: { name: 'arrangement' }, seconds: 42, then })
    const page = await shown(TwoLooks, { tree: 't', scored: '1' })
    expect(book.asked).toHaveLength(0)
    const details = page.find('[data-ahead]') as HTMLDetailsElement
    details.open = true
    details.dispatchEvent(new Event('toggle'))
    await vi.waitFor(() => expect(page.text()).toContain('First arrangement. Both take about 42 s.'))
    expect(page.text()).toContain('then bud coat')
    expect(page.text()).toContain('red oak: stop there')
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

describe('the name to write down', () => {
  const none = { rank: 'undetermined', rank_words: '', name: '', posterior: 0, words: '', settled: false }
  const genus = { rank: 'genus', rank_words: 'to genus', name: 'Acer', posterior: 0.97, words: 'a maple of some kind', settled: true }
  const species = { rank: 'species', rank_words: 'to species', name: 'Acer rubrum', posterior: 0.8, words: 'red maple', settled: true }
  async function offered(named: object, probably: object, given: object = {}) {
    const page = await shown(GiveName, {})
    useTree().view = { tree: { id: 't' }, names: [], looks: [], result: { named, probably }, doubt: '', ...given } as never
    await nextTick()
    return page
  }
  it.each([
    [none, none, 'Write down a name'],
    [genus, none, 'Write down a maple of some kind'],
    [genus, species, 'Write down probably red maple'],
    [none, species, 'Write down probably red maple'],
  ])('is what is probable, or what is carried', async (named, probably, words) => {
    expect((await offered(named, probably)).find('#write-name')?.textContent?.trim()).toBe(words)
  })
  it('is corrected where the evidence speaks against what was written, not where that is probable', async () => {
    const names = [
      { rank: 'species', name: 'Acer saccharum', words: 'sugar maple', at: '2026-11-25T10:00:00Z', by: '', why: '', posterior: 0.7 },
    ]
    const doubted = await offered(none, species, { names, step: 'not-yet', doubt: 'The evidence gives this name 9 %.' })
    expect(doubted.find('#write-name')?.textContent?.trim()).toBe('Correct the name to probably red maple')
    expect(doubted.find('.doubt')).not.toBeNull()
    const probable = await offered(none, none, { names, step: 'probably', doubt: 'Probably: the evidence gives this name 75 %.' })
    expect(probable.text()).toContain('Probably sugar maple')
    expect(probable.find('.doubt')).toBeNull()
  })
  it('of a confirmed name leads, and is replaced only after a warning', async () => {
    const flower = {
      entry: 'n1',
      rank: 'species',
      name: 'Acer saccharinum',
      words: 'silver maple',
      at: '2026-05-14T10:00:00Z',
      seen: 'flower',
      by: '',
      why: '',
    }
    const page = await offered(none, species, { names: [flower], step: 'named' })
    useVocabulary().words = { names: [flower], bars: {}, confirms: [{ id: 'flower', words: 'seen in flower' }] } as never
    expect(page.find('#write-name')?.textContent?.trim()).toBe('Correct the name')
    const written = vi.spyOn(useTree(), 'giveName').mockReturnValue('')
    await page.press('#write-name')
    await page.press('#keep-name')
    expect(asked).toHaveBeenCalledOnce()
    expect(written).not.toHaveBeenCalled()
    const panel = await shown(StandingPanel, {})
    useVocabulary().words = { names: [], bars: {}, confirms: [{ id: 'flower', words: 'seen in flower' }] } as never
    useTree().view = {
      tree: { id: 't' },
      last: '',
      names: [flower],
      looks: [{ scores: [{}] }],
      result: { named: genus, probably: species, ranking: [], next: [], check_again: [] },
    } as never
    await nextTick()
    expect(panel.find('[data-confirmed]')?.textContent).toContain('Silver maple')
    expect(panel.find('[data-confirmed]')?.textContent).toContain('seen in flower')
  })
})
