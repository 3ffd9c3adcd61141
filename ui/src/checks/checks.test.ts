import { beforeEach, describe, expect, it } from 'vitest'
import { server } from '../testing/server'

const book = server()
const { settle, shown, type } = await import('../testing/page')
const PlanCheck = (await import('./PlanCheck.vue')).default
const SpringAnswer = (await import('./SpringAnswer.vue')).default
const { useSession } = await import('../frame/session')

beforeEach(() => book.forget())

const plan = {
  trees: 20,
  there: 48,
  needed: 35,
  half: 0.1,
  gives: 0.13,
  seed: 7,
  by: 'stand',
  strata: [{ name: 'North cove', trees: 9, drawn: 4 }],
}

async function planning(needed: boolean) {
  book.on('GET /api/crew', [
    { id: '1', name: 'Odile Marsh', role: 'lead' },
    { id: '2', name: 'Ansel Brook', role: 'observer' },
    { id: '3', name: 'Gone Away', role: 'observer', closed: true },
    { id: '4', name: 'Only Reads', role: 'reader' },
  ])
  book.on('POST /api/checks/draw', plan)
  book.on('POST /api/checks', { id: 'c' })
  book.on('GET /api/checks', [])
  const page = await shown(PlanCheck, {})
  useSession().session = { needed, name: 'Odile Marsh', role: 'lead', checking: '' }
  await settle()
  await type(page, '[data-check-name]', ' November check ')
  const checker = page.find('[data-checker]') as HTMLSelectElement
  checker.value = 'Ansel Brook'
  checker.dispatchEvent(new Event('change'))
  page.find('form')?.dispatchEvent(new Event('submit'))
  await settle()
  return page
}

describe('planning a check', () => {
  it('offers those who could name the trees again, and shows what would be drawn', async () => {
    const page = await planning(true)
    expect([...page.root.querySelectorAll('[data-checker] option')].map((o) => o.textContent)).toEqual(['Odile Marsh', 'Ansel Brook'])
    expect(book.last('POST')?.body).toEqual({ name: 'November check', checker: 'Ansel Brook', by: 'stand', expected: 0.9, half: 0.1 })
    for (const part of ['20 trees of 48 that others named', 'asks for 35', 'Seed 7', 'North cove']) expect(page.text()).toContain(part)
  })
  it('gives just what was drawn', async () => {
    const page = await planning(true)
    await page.press('[data-give-check]')
    await settle()
    expect(book.last('POST')).toMatchObject({ path: '/api/checks', body: { seed: 7, trees: 20 } })
    expect(page.text()).toContain('Ansel Brook has it')
  })
  it('forgets what was drawn when the plan is changed', async () => {
    const page = await planning(true)
    page.find('form')?.dispatchEvent(new Event('input'))
    await settle()
    expect(page.find('[data-drawn]')).toBeNull()
  })
  it('gives nothing where nobody signs in, and says why', async () => {
    const page = await planning(false)
    expect(page.find('[data-give-check]')).toHaveProperty('disabled', true)
    expect(page.text()).toContain('blind only where people sign in')
  })
})

describe('the answer of spring', () => {
  const right = { n: 54, of: 60, p: 0.9, from: 0.8, to: 0.95 }
  const spring = {
    confirmed: 61,
    all: right,
    says: ['Of 60 trees named in winter 54 were right.'],
    brier: 0.081,
    bins: [],
    by_rank: [],
    by_taxon: [],
  }
  it('says how often each was right, and what is unknown of nobody', async () => {
    const page = await shown(SpringAnswer, { spring: { ...spring, by_observer: [{ name: '', words: '', right }] }, wrong: [] })
    for (const part of ['Of 60 trees', 'nobody’s name', '54 of 60, 90 % (80 % to 95 %)', '0.081']) expect(page.text()).toContain(part)
  })
  it('says what to do where nothing was confirmed', async () => {
    const none = { ...spring, confirmed: 0 }
    expect((await shown(SpringAnswer, { spring: none, wrong: [] })).text()).toContain('When one is seen in leaf, flower or fruit')
  })
})
