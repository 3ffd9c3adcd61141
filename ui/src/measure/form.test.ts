import { beforeEach, expect, it, vi } from 'vitest'
import { server } from '../testing/server'

const book = server()
const { settle, shown, type } = await import('../testing/page')
const SumForm = (await import('./SumForm.vue')).default
const { useInstruments } = await import('../instruments/instruments')

beforeEach(() => {
  book.forget()
  vi.stubGlobal('BroadcastChannel', undefined)
})

const laser = {
  name: 'Laser',
  kind: 'hypsometer',
  health: 'well',
  last: { serial: 5, kind: 'range', text: '32.1 m', angle: '38.2°', at: new Date().toISOString() },
}
const input = (name: string, kind: string, more = {}) => ({
  name,
  words: name,
  kind,
  example: '',
  optional: false,
  of: [],
  by: '',
  ...more,
})
const sum = {
  id: 'height-angles',
  words: 'height by angles',
  source: '',
  fills: 'height',
  inputs: [
    input('distance', 'length', { reads: 'range', sight: 'level' }),
    input('along', 'word', { of: ['level', 'slope'] }),
    input('top', 'slope', { reads: 'range' }),
  ],
}

async function form(given: Record<string, string>) {
  const says: { given: Record<string, string>; instrument: string } = { given, instrument: '' }
  const page = await shown(SumForm, {
    sum,
    given,
    wrong: [],
    busy: false,
    'onUpdate:given': (g: Record<string, string>) => (says.given = g),
    'onUpdate:instrument': (i: string) => (says.instrument = i),
  })
  useInstruments().all = [laser] as never
  await settle()
  return { page, says }
}

it('brings a laser’s range to the level by its angle', async () => {
  const { page, says } = await form({ along: 'slope' })
  await page.press('[data-take]')
  await settle()
  expect(says.given).toMatchObject({ distance: '32.1 m at 38.2°', along: 'level' })
  expect(says.instrument).toBe('Laser')
})

it('says no instrument of a figure that was typed over its reading', async () => {
  const { page, says } = await form({})
  await page.press('[data-take]')
  await settle()
  await type(page, '[data-input="distance"]', '30 m')
  expect(says.given.distance).toBe('30 m')
  expect(says.instrument).toBe('')
})
