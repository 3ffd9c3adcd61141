import { beforeEach, describe, expect, it, vi } from 'vitest'
import { server } from '../testing/server'

const book = server()
const { all, settle, shown, type } = await import('../testing/page')
const CompositionChart = (await import('./CompositionChart.vue')).default
const { withoutStrays } = await import('./middle')
const PlotForm = (await import('./PlotForm.vue')).default
const { useInstruments } = await import('../instruments/instruments')
const VisitList = (await import('./VisitList.vue')).default

beforeEach(() => {
  book.forget()
  localStorage.clear()
})

describe('where the map opens', () => {
  const wood = Array.from({ length: 9 }, (_, i) => ({ lat: 43.56 + i / 1000, lon: -90.64 - i / 1000 }))
  it('leaves out a tree whose minus is missing', () => {
    expect(withoutStrays([...wood, { lat: 43.56, lon: 90.64 }])).toEqual(wood)
  })
  it('keeps a tree at the other end of a long tract', () => {
    const end = { lat: 43.6, lon: -90.7 }
    expect(withoutStrays([...wood, end])).toContain(end)
  })
  it('keeps two that are apart, as neither is the stray', () => {
    expect(withoutStrays([wood[0], { lat: 43.56, lon: 90.64 }])).toHaveLength(2)
  })
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
    await vi.waitFor(() => expect(page.find('[role="alert"]')?.textContent?.trim()).toBe('Expected a day'))
    expect((page.find('form label:nth-of-type(2) input') as HTMLInputElement).value).toBe('Marit Sandoval')
  })
})

describe('a sample point', () => {
  const plot = {
    id: 'p'.repeat(26),
    tract: 'Lantern Creek',
    stand: 'North cove',
    name: '7',
    day: '2026-11-17',
    factor: '10 ft2/ac',
    stems: [],
  }
  const caliper = { name: 'Caliper', kind: 'caliper', health: 'well', last: { serial: 4, kind: 'diameter', text: '31.4 cm', at: '' } }
  async function measured() {
    vi.stubGlobal('BroadcastChannel', undefined)
    const page = await shown(PlotForm, { plot })
    useInstruments().all = [caliper] as never
    await settle()
    await page.press('[data-take]')
    await settle()
    return page
  }
  async function kept(page: Awaited<ReturnType<typeof measured>>) {
    page.find('form')?.dispatchEvent(new Event('submit'))
    await settle()
    return book.last('PUT')?.body
  }

  it('says by what its diameters were read', async () => {
    expect(await kept(await measured())).toMatchObject({ instrument: 'Caliper', stems: [{ diameter: '31.4 cm' }] })
  })
  it('says no instrument of a figure that was typed over its reading', async () => {
    const page = await measured()
    await type(page, '[data-diameter]', '30')
    expect(await kept(page)).toMatchObject({ instrument: '', stems: [{ diameter: '30 cm' }] })
  })
})
