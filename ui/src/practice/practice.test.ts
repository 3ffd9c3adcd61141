import { beforeEach, describe, expect, it, vi } from 'vitest'
import { server } from '../testing/server'

const book = server()
const { settle, shown, type } = await import('../testing/page')
const NameAnswer = (await import('./NameAnswer.vue')).default
const PairAnswer = (await import('./PairAnswer.vue')).default
const VerdictSays = (await import('./VerdictSays.vue')).default
const { usePractice } = await import('./practice')

beforeEach(() => {
  book.forget()
  localStorage.clear()
})

describe('saying a name', () => {
  const card = { id: 'c', kind: 'twig', part: 'twig', asks: 'Whose twig is this?', age: 'young' }
  const species = (name: string, words: string) => ({ rank: 'species', name, words })
  beforeEach(() =>
    book.on('GET /api/practice/cards/c/names', (search: string) => {
      const typed = new URLSearchParams(search).get('typed')
      if (typed === 'beech') return { clear: true, names: [species('Fagus grandifolia', 'American beech')] }
      if (typed === 'oaf') return { clear: false, names: [] }
      return { clear: false, names: [species('Ostrya virginiana', 'Hop-hornbeam'), species('Carpinus caroliniana', 'Musclewood')] }
    }),
  )
  async function said(name: string) {
    const says: unknown[] = []
    const page = await shown(NameAnswer, { card, busy: false, sure: 'fair', onSay: (s: unknown) => says.push(s) })
    if (name) await type(page, '#practice-name', name)
    page.find('form')?.dispatchEvent(new Event('submit'))
    await settle()
    return { page, says }
  }
  it('takes no name for none, and none that may be several', async () => {
    expect((await said('')).page.text()).toContain('Say a name')
    expect((await said('oaf')).page.text()).toContain('No tree here is called “oaf”')
    const { page, says } = await said('ironwood')
    expect(page.text()).toContain('Which do you mean by “ironwood”?')
    expect(says).toEqual([])
    await page.press('[data-which] button')
    page.find('form')?.dispatchEvent(new Event('submit'))
    await settle()
    expect(says).toEqual([{ rank: 'species', name: 'Ostrya virginiana', sure: 'fair' }])
  })
  it('takes a name that can only be one', async () => {
    expect((await said('beech')).says).toEqual([{ rank: 'species', name: 'Fagus grandifolia', sure: 'fair' }])
  })
  it('keeps its list closed after a name was chosen, however late the search for what was typed comes', async () => {
    const page = await shown(NameAnswer, { card, busy: false, sure: 'fair' })
    await type(page, '#practice-name', 'iron')
    await vi.waitFor(() => expect(document.querySelector('.p-autocomplete-option')).not.toBeNull())
    await type(page, '#practice-name', 'ironwood')
    ;(document.querySelector('.p-autocomplete-option') as HTMLElement).click()
    await new Promise((resolve) => setTimeout(resolve, 400)) // the search comes 300 ms after the last key
    await settle()
    expect(document.querySelector('.p-autocomplete-overlay')).toBeNull()
  })
  it('is never wrong to press that one does not know', async () => {
    const { page, says } = await said('')
    await page.press('[data-unknown]')
    expect(says).toEqual([{}])
  })
})

describe('a pair', () => {
  const card = {
    id: 'c',
    asks: 'Which is which?',
    options: [{ id: 'bud.tip', words: 'bud tip' }],
    pair: [
      { name: 'Carya ovata', english: 'shagbark' },
      { name: 'Carya cordiformis', english: 'bitternut' },
    ],
  }
  it('says which is the first, and what follows of the second', async () => {
    const says: unknown[] = []
    const page = await shown(PairAnswer, { card, busy: false, sure: 'sure', onSay: (s: unknown) => says.push(s) })
    expect(page.find('[data-say]')).toHaveProperty('disabled', true)
    await page.press('[data-first="Carya cordiformis"]')
    expect(page.text()).toContain('so 2 is shagbark')
    page.find('form')?.dispatchEvent(new Event('submit'))
    expect(says).toEqual([{ first: 'Carya cordiformis', by: '', sure: 'sure' }])
  })
})

it('shows a wrong name beside the tree, with what tells the two, and when it comes again', async () => {
  const verdict = {
    verdict: 'wrong',
    words: 'Another tree.',
    kind: 'twig',
    taxon: 'Acer rubrum',
    english: 'red maple',
    carries: 'to species',
    other: 'Acer saccharum',
    other_is: 'sugar maple',
    tells: ['bud color: red, not brown'],
    again: '2026-01-01T00:00:00Z',
  }
  const text = (await shown(VerdictSays, { verdict })).text()
  for (const part of ['Another tree.', 'Red maple', 'What tells it from sugar maple', 'red, not brown', 'It comes again before you leave.'])
    expect(text).toContain(part)
  expect((await shown(VerdictSays, { verdict: { ...verdict, again: '2999-03-01T00:00:00Z' } })).text()).toContain('It comes again on')
})

it('asks for one card at a time: of quick presses the last is answered', async () => {
  const asked: string[] = []
  book.on('POST /api/practice/cards', (search: string) => {
    asked.push(new URLSearchParams(search).get('deck') ?? '')
    return { id: '', kind: 'twig' }
  })
  await shown({ setup: () => () => null }, {})
  const practice = usePractice()
  await Promise.all(['one', 'two', 'three'].map((deck) => practice.next({ region: '' }, deck)))
  expect(asked).toEqual(['one', 'three'])
})
