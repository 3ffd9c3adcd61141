import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { server } from '../testing/server'

let book = server()
const { all, settle, shown } = await import('../testing/page')
const { atHome, useInstruments } = await import('./instruments')
const InstrumentBar = (await import('./InstrumentBar.vue')).default
const OfferedReading = (await import('./OfferedReading.vue')).default

const caliper = (serial: number, text: string, at = new Date().toISOString()) => ({
  name: 'Caliper',
  kind: 'caliper',
  health: 'well',
  last: { serial, kind: 'diameter', text, at },
})
beforeEach(() => vi.stubGlobal('BroadcastChannel', undefined)) // so that it asks, as where events cannot come
afterEach(() => {
  vi.unstubAllGlobals()
  book.forget()
})

async function offered(states: unknown[], props = {}) {
  book = server()
  book.on('GET /api/instruments', { all: states })
  const taken: unknown[] = []
  const page = await shown(OfferedReading, { kinds: ['diameter'], onTake: (r: unknown) => taken.push(r), ...props })
  useInstruments().all = states as never
  await settle()
  return { page, taken }
}

it('offers what was just read, and takes it once, when pressed', async () => {
  const { page, taken } = await offered([caliper(7, '31.4 cm')])
  expect(page.text()).toContain('Caliper: 31.4 cm · take')
  expect(taken).toEqual([])
  await page.press('[data-take]')
  await settle()
  expect(taken).toMatchObject([{ serial: 7, instrument: 'Caliper' }])
  expect(page.find('[data-take]')).toBeNull()
})

it('takes nothing that somebody else took meanwhile', async () => {
  const { page, taken } = await offered([caliper(7, '31.4 cm')])
  book.on('POST /api/instruments/taken', { status: 409, detail: 'this reading was taken already' })
  await page.press('[data-take]')
  await settle()
  expect(taken).toEqual([])
  expect(page.text()).toContain('31.4 cm was taken by somebody else')
})

it('takes what home does not know to be taken, though home refuses it for another reason', async () => {
  const { page, taken } = await offered([caliper(7, '31.4 cm')])
  book.on('POST /api/instruments/taken', { status: 401, detail: 'sign in' })
  await page.press('[data-take]')
  await settle()
  expect(taken).toMatchObject([{ serial: 7 }])
})

it('goes by home’s clock, not this device’s: what home still tells can be taken', async () => {
  const slow = new Date(Date.now() + 40 * 86_400_000).toISOString()
  expect((await offered([caliper(1, '31.4 cm', slow)])).page.find('[data-take]')).not.toBeNull()
})

it('offers nothing of another kind, and no angle where none was read', async () => {
  expect((await offered([caliper(2, '31.4 cm')], { kinds: ['range'] })).page.find('[data-take]')).toBeNull()
  expect((await offered([caliper(3, '31.4 cm')], { angle: true })).page.find('[data-take]')).toBeNull()
})

it('says how each instrument does, and more when pressed', async () => {
  const book = server()
  book.on('GET /api/instruments', { all: [] })
  const page = await shown(InstrumentBar, {})
  await settle()
  useInstruments().all = [
    caliper(1, '31.4 cm'),
    { name: 'Receiver', kind: 'gnss', health: 'no-fix', says: 'Too few satellites.', bad: 3 },
    { name: 'Station', kind: 'weather', health: 'well', says: '−4 °C' },
  ] as never
  await settle()
  expect(all(page, '[data-instrument]')).toHaveLength(2)
  expect(page.text()).toContain('Receiver: no fix')
  await page.press('[data-instrument="gnss"]')
  expect(page.text()).toContain('Too few satellites. 3 of its lines could not be read')
})

it('takes a receiver for here only on the machine that serves', () => {
  for (const [hostname, here] of [
    ['localhost', true],
    ['127.0.0.1', true],
    ['[::1]', true],
    ['192.168.4.20', false],
    ['pump-house.local', false],
  ] as const) {
    vi.stubGlobal('location', { hostname })
    expect(atHome(), hostname).toBe(here)
  }
})
