import { beforeEach, describe, expect, it } from 'vitest'
import { server } from '../testing/server'

const book = server()
const { all, settle, shown } = await import('../testing/page')
const { useFlora } = await import('./flora')
const FloraFilter = (await import('./FloraFilter.vue')).default
const NameSearch = (await import('./NameSearch.vue')).default
const { useVocabulary } = await import('../frame/vocabulary')

beforeEach(() => book.forget())

describe('finding a tree by name', () => {
  async function found(answer: unknown) {
    book.on('GET /api/flora/names', answer)
    const page = await shown(NameSearch, {})
    useFlora().query = ' sycamore '
    await useFlora().search()
    await settle()
    return page
  }
  it('lists every tree that goes by the name, and where', async () => {
    const page = await found({
      ambiguous: '“sycamore” means 2 trees.',
      hits: [
        { taxon: 'Platanus occidentalis', kind: 'english', name: 'sycamore', where: 'eastern North America' },
        { taxon: 'Acer pseudoplatanus', kind: 'older', name: 'Acer majus', english: 'sycamore maple', where: '' },
      ],
    })
    expect(book.last('GET')?.path).toBe('/api/flora/names?q=sycamore')
    for (const part of ['means 2 trees', 'eastern North America', 'once Acer majus', 'not so called in these regions'])
      expect(page.text()).toContain(part)
  })
  it('says what a rule of thumb leaves out', async () => {
    const page = await found({
      rule: { words: 'Maple, ash and dogwood.', left_out: [{ name: 'Aesculus glabra', english: 'Ohio buckeye' }], wrong: [] },
    })
    expect(page.text()).toContain('leaves out 1 trees that are opposite too: Ohio buckeye')
  })
  it('says when there is none, and nothing once the field is empty', async () => {
    const page = await found({ hits: [] })
    expect(page.text()).toContain('No tree goes by that name here')
    useFlora().query = ''
    await useFlora().search()
    await settle()
    expect(page.text()).not.toContain('No tree goes by')
  })
})

describe('filtering by what trees show', () => {
  it('asks for one state of a character at a time, and drops it when pressed again', async () => {
    book.on('GET /api/flora/taxa', [])
    const page = await shown(FloraFilter, {})
    useVocabulary().words!.sections![0]!.characters = [
      {
        id: 'bark.texture',
        name: 'bark texture',
        states: [
          { id: 'smooth', words: 'smooth' },
          { id: 'plates', words: 'plates' },
        ],
      },
      { id: 'bark.trunk-thorns', name: 'thorns on the trunk', kind: 'sign' },
      { id: 'form.dbh', name: 'diameter', kind: 'numeric' },
    ] as never
    await settle()
    expect(all(page, '.character')).toHaveLength(2)
    all(page, '.character button')[0]!.click()
    await settle()
    const [smooth, plates] = all(page, '.state')
    smooth!.click()
    plates!.click()
    await settle()
    expect(useFlora().shown).toEqual([{ character: 'bark.texture', state: 'plates' }])
    expect(book.last('GET')?.path).toContain('show=bark.texture%3Aplates')
    plates!.click()
    expect(useFlora().shown).toEqual([])
  })
})
