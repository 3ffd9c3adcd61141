import { nextTick, reactive } from 'vue'
import { describe, expect, it } from 'vitest'
import type { Character, Score } from '../api/client'
import { useSession } from '../frame/session'
import { mount } from '../testing/mount'
import { giveWords } from '../testing/words'
import MeasureInput from './MeasureInput.vue'
import SignButtons from './SignButtons.vue'
import StateTiles from './StateTiles.vue'
import TallyPad from './TallyPad.vue'
import VisitPanel from './VisitPanel.vue'
import { useTree } from './tree'

type Part = Partial<Score>

const pith = {
  id: 'twig.pith',
  name: 'pith',
  unit: '',
  kind: 'categorical',
  states: ['solid', 'chambered', 'hollow'].map((id) => ({ id, words: id, means: '' })),
} as unknown as Character
const width = { id: 'bud.length', name: 'bud length', unit: 'mm', kind: 'numeric', length: true, caliper: true } as unknown as Character
const pairs = { id: 'twig.arrangement', name: 'arrangement', unit: '', kind: 'tally', states: [] } as unknown as Character

/** Mounts with the book's words, in a light that offers full certainty. */
function scored(component: Parameters<typeof mount>[0], props: Record<string, unknown>) {
  const page = mount<Part>(component, props)
  giveWords()
  useTree().view = { offer: { certainty: 'sure', visibility: 'clear' } } as never
  return page
}

describe('a tile', () => {
  it('scores surely, and less so when pressed again', async () => {
    const fresh = scored(StateTiles, { character: pith })
    await fresh.press('[data-state="chambered"]')
    expect(fresh.emitted).toEqual([{ states: ['chambered'], certainty: 'sure' }])
    for (const [now, then] of [
      ['sure', 'fair'],
      ['fair', 'guess'],
      ['guess', 'sure'],
    ]) {
      const page = scored(StateTiles, { character: pith, score: { states: ['chambered'], certainty: now } })
      await page.press('[data-state="chambered"]')
      expect(page.emitted).toEqual([{ states: ['chambered'], certainty: then }])
    }
  })
  it('takes the place of another', async () => {
    const page = scored(StateTiles, { character: pith, score: { states: ['solid'], certainty: 'guess' } })
    expect(page.find('[data-state="solid"]')?.getAttribute('aria-pressed')).toBe('true')
    await page.press('[data-state="hollow"]')
    expect(page.emitted).toEqual([{ states: ['hollow'], certainty: 'sure' }])
  })
  it('joins another where either is kept, and leaves at least one', async () => {
    const page = scored(StateTiles, { character: pith, score: { states: ['solid'], certainty: 'fair' } })
    await page.press('[data-either]')
    await page.press('[data-state="hollow"]')
    await page.press('[data-state="solid"]')
    expect(page.emitted).toEqual([{ states: ['solid', 'hollow'], certainty: 'fair' }])
  })
})

describe('a sign', () => {
  it('is seen, or looked for and not seen', async () => {
    const page = scored(SignButtons, { character: 'twig.milky-sap' })
    await page.press('[data-seen="true"]')
    await page.press('[data-seen="false"]')
    expect(page.emitted).toEqual([
      { seen: true, visibility: 'clear' },
      { seen: false, visibility: 'clear' },
    ])
    expect(page.find('[role="group"]')).toBeNull()
  })
  it('can be said to have been hardly visible', async () => {
    const page = scored(SignButtons, { character: 'twig.milky-sap', score: { seen: false, visibility: 'partial' } })
    await nextTick()
    const words = [...page.root.querySelectorAll('[role="group"] button')].map((b) => b.textContent)
    expect(words).toEqual(['clear view', 'in part', 'hardly'])
    await page.press('[role="group"] button:last-child')
    expect(page.emitted).toEqual([{ seen: false, visibility: 'poor' }])
  })
})

describe('a tally', () => {
  it('counts pairs and singles up from nothing', async () => {
    const page = scored(TallyPad, { character: pairs })
    await page.press('[data-tally="pair"]')
    await page.press('[data-tally="single"]')
    expect(page.emitted).toEqual([
      { pairs: 1, nodes: 1 },
      { pairs: 0, nodes: 1 },
    ])
    expect(page.text()).toContain('Nothing counted yet')
  })
  it('takes the last press back, whatever it was', async () => {
    let back = 0
    const page = scored(TallyPad, { character: pairs, score: { pairs: 3, nodes: 4 }, onBack: () => back++ })
    expect(page.text()).toContain('3 pairs in 4 nodes')
    await page.press('[data-tally="back"]')
    expect(back).toBe(1)
    expect(page.emitted).toEqual([])
  })
  it('counts with words that agree', () => {
    expect(scored(TallyPad, { character: pairs, score: { pairs: 1, nodes: 1 } }).text()).toContain('1 pair in 1 node')
  })
})

describe('a measure', () => {
  async function write(text: string, score?: unknown) {
    const page = scored(MeasureInput, { character: width, score })
    const field = page.find('input') as HTMLInputElement
    field.value = text
    field.dispatchEvent(new Event('input'))
    page.find('form')?.dispatchEvent(new Event('submit', { cancelable: true }))
    await nextTick()
    return page
  }
  it.each(['6.5', '5; 6; 5.5', '1/4 in', 'a pencil'])('goes to the book as it was written: %s', async (text) =>
    expect((await write(text)).emitted).toEqual([{ typed: text, how: 'ruler' }]),
  )
  it('keeps how certain it was', async () => {
    expect((await write('7', { value: 6, certainty: 'guess', how: 'ruler', words: '6 mm' })).emitted[0].certainty).toBe('guess')
  })
  it('is not sent again when nothing was changed', async () => {
    const page = await write('1/4 in', { value: 6.35, typed: '1/4 in', how: 'ruler', words: '6.35 mm with a ruler' })
    expect(page.emitted).toEqual([])
    expect(page.find('[role="status"]')?.textContent).toContain('6.35 mm with a ruler')
  })
  it('is kept on leaving the field, not on going from the figure to its unit', async () => {
    const length = { ...width, length: true } as unknown as Character
    const page = scored(MeasureInput, { character: length })
    const field = page.find('[data-measure]') as HTMLInputElement
    const leave = (to: Element | null) => field.dispatchEvent(new FocusEvent('focusout', { bubbles: true, relatedTarget: to }))
    field.dispatchEvent(new FocusEvent('focusin', { bubbles: true }))
    field.value = '2.5'
    field.dispatchEvent(new Event('input'))
    await nextTick()
    leave(page.find('select'))
    expect(page.emitted).toEqual([])
    expect(page.text()).toContain('Kept when you leave the field.')
    leave(null)
    expect(page.emitted).toEqual([{ typed: '2.5', how: 'ruler' }])
  })
  it('is not written over by what comes from elsewhere while it is written', async () => {
    const score = reactive({ value: 3, typed: '3', how: 'ruler', words: '3 mm', unit: '' })
    const page = scored(MeasureInput, { character: width, score })
    const field = page.find('[data-measure]') as HTMLInputElement
    field.dispatchEvent(new FocusEvent('focusin', { bubbles: true }))
    field.value = '4'
    field.dispatchEvent(new Event('input'))
    score.typed = '9'
    await nextTick()
    expect(field.value).toBe('4')
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }))
    await nextTick()
    expect(field.value).toBe('9')
    expect(page.emitted).toEqual([])
  })
  it('is withdrawn when its field is emptied, and says so', async () => {
    let gone = 0
    const page = scored(MeasureInput, { character: width, score: { value: 3, typed: '3', how: 'ruler' }, onWithdraw: () => gone++ })
    const field = page.find('[data-measure]') as HTMLInputElement
    field.value = ''
    field.dispatchEvent(new Event('input'))
    page.find('form')?.dispatchEvent(new Event('submit', { cancelable: true }))
    await nextTick()
    expect([gone, page.emitted]).toEqual([1, []])
  })
  it('is kept when a key leads elsewhere, without a step out of its field', async () => {
    const page = scored(MeasureInput, { character: width })
    const field = page.find('[data-measure]') as HTMLInputElement
    field.dispatchEvent(new FocusEvent('focusin', { bubbles: true }))
    field.value = '3.'
    field.dispatchEvent(new Event('input'))
    await nextTick()
    page.leave()
    expect(page.emitted).toEqual([{ typed: '3.', how: 'ruler' }])
  })
  it('offers the caliper only where its jaws go round', async () => {
    const offered = (page: ReturnType<typeof scored>) =>
      [...page.root.querySelectorAll('[aria-label="Measured with"] option')].map((o) => (o as HTMLOptionElement).value)
    const round = scored(MeasureInput, { character: width })
    const ridge = scored(MeasureInput, { character: { ...width, caliper: false } })
    await nextTick()
    expect([offered(round).includes('caliper'), offered(ridge).includes('caliper')]).toEqual([true, false])
  })
  it('is by ruler again after one held against a pencil', async () => {
    const page = scored(MeasureInput, { character: width, score: { value: 7, typed: 'a pencil', how: 'eye' } })
    await nextTick()
    expect((page.find('[aria-label="Measured with"]') as HTMLSelectElement).value).toBe('ruler')
  })
  it('says what the book found wrong, and keeps what was written', async () => {
    const page = await write('thin')
    useTree().rejected = { character: 'bud.length', lines: ['write a number such as 6.5'] }
    await nextTick()
    expect(page.find('[role="status"]')?.textContent).toContain('Not kept. write a number such as 6.5')
    expect((page.find('input') as HTMLInputElement).value).toBe('thin')
  })
})

describe('what holds for the visit', () => {
  it('is there to be read, and not to be set, by who may only read', async () => {
    const page = scored(VisitPanel, {})
    useTree().view = { tree: { id: 't' }, facts: { snow: 'none', light: 'good', foliage: 'bare', out_of_reach: [], among: {} } } as never
    await nextTick()
    const set = page.find('fieldset') as HTMLFieldSetElement
    expect(set.disabled).toBe(false)
    useSession().session = { needed: true, name: 'Marit Sandoval', role: 'reader', checking: '' }
    await nextTick()
    expect(set.disabled).toBe(true)
  })
})
