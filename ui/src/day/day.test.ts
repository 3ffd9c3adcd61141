import { beforeEach, expect, it, vi } from 'vitest'
import { server } from '../testing/server'

const book = server()
const { settle, shown } = await import('../testing/page')
const NextStop = (await import('./NextStop.vue')).default
const { useDay } = await import('./day')

type Here = (p: { coords: { longitude: number; latitude: number } }) => void
let walked: Here = () => {}
let lost = () => {}
beforeEach(() => {
  book.forget()
  const watchPosition = (ok: Here, no: () => void) => {
    walked = ok
    lost = no
    return 1
  }
  vi.stubGlobal('navigator', { ...navigator, geolocation: { watchPosition, clearWatch: () => {} } })
})

const stop = { id: 't', tag: 'LC-204', lon: -90.64, lat: 43.56, arrive: '2026-12-01T14:30:00Z', over: true }
const at = (longitude: number, latitude: number) => walked({ coords: { longitude, latitude } })

it('says how far and which way the next stop is from here, and that a stream lies between', async () => {
  book.on('POST /api/sums', [{ value: 182.4, parts: { true_degrees: 47 } }])
  const page = await shown(NextStop, { plan: { crews: [{ stops: [stop] }] } })
  expect(page.text()).toContain('Waiting for a position')
  at(-90.641, 43.559)
  await settle()
  expect(book.last('POST')?.body).toMatchObject({ sums: [{ sum: 'bearing', from: [-90.641, 43.559], to: [-90.64, 43.56] }] })
  for (const part of ['LC-204', '182 m at 47° · 228 paces', 'a stream is crossed']) expect(page.text()).toContain(part)
})

it('asks anew after a few steps, not at every fix', async () => {
  book.on('POST /api/sums', [{ value: 182.4, parts: { true_degrees: 47 } }])
  await shown(NextStop, { plan: { crews: [{ stops: [stop] }] } })
  for (const lon of [-90.641, -90.641001, -90.641002]) {
    at(lon, 43.559)
    await settle()
  }
  expect(book.asked.filter((a) => a.path === '/api/sums')).toHaveLength(1)
  at(-90.6412, 43.559)
  await settle()
  expect(book.asked.filter((a) => a.path === '/api/sums')).toHaveLength(2)
})

it('says when nothing more fits, and when the device does not say where it is', async () => {
  const page = await shown(NextStop, { plan: { crews: [{ stops: [] }] } })
  lost()
  await settle()
  expect(page.text()).toContain('Nothing more fits into the day')
  expect(page.text()).toContain('does not say where it is')
  expect(page.find('[data-replan]')).toHaveProperty('disabled', true)
})

it('goes on from here and now with the stops that are left, in their order', async () => {
  const says: unknown[] = []
  const stops = [stop, { ...stop, id: 'u' }, { ...stop, id: 'v' }]
  const page = await shown(NextStop, { plan: { crews: [{ stops }] }, onOn: (...args: unknown[]) => says.push(args) })
  await page.press('[data-done]')
  expect(says).toEqual([['t', [-90.64, 43.56], ['u', 'v']]]) // from the tree, as the device does not say where it is

  book.on('GET /api/day', { date: '2026-12-01', start: '2026-12-01T10:42:00-06:00', crews: [{ stops: stops.slice(1) }], to: [-90.6, 43.5] })
  await shown({ setup: () => () => null }, {})
  const day = useDay()
  await day.goOn([-90.64, 43.56], ['u', 'v'])
  const asked = new URLSearchParams(book.asked.at(-1)?.path.split('?')[1])
  expect(asked.get('going')).toBe('true')
  expect(asked.getAll('order')).toEqual(['u', 'v'])
  expect(asked.getAll('from')).toEqual(['-90.64,43.56'])
  expect(day.asked).toMatchObject({ date: '2026-12-01', start: '10:42', crews: 1 })
  await day.leaveOut('u')
  const then = new URLSearchParams(book.asked.at(-1)?.path.split('?')[1])
  expect(then.get('going')).toBeNull()
  expect(then.getAll('order')).toEqual(['v'])
})

it('keeps an order of one’s own without a connection, and drops it only where the book cannot follow it', async () => {
  const order = () => new URLSearchParams(book.asked.at(-1)?.path.split('?')[1]).getAll('order')
  await shown({ setup: () => () => null }, {})
  const day = useDay()
  book.connect(false)
  await day.make(['u', 'v'])
  book.connect(true)
  await day.again()
  expect(order()).toEqual(['u', 'v'])
  book.on('GET /api/day', { errors: [{ location: 'body.order', message: 'a stream lies in the way' }] })
  await day.again()
  await day.again()
  expect(order()).toEqual([])
})

it('keeps the later of two orders that were asked for at once', async () => {
  book.on('GET /api/day', { date: '2026-12-01', start: '2026-12-01T10:42:00-06:00', crews: [] })
  await shown({ setup: () => () => null }, {})
  const day = useDay()
  await Promise.all([day.make(['u', 'v']), day.make(['v', 'u'])])
  expect(day.order).toEqual(['v', 'u'])
})

it('keeps an order of one’s own in a window opened anew, and plans anew once it was shown', async () => {
  const order = () => new URLSearchParams(book.asked.at(-1)?.path.split('?')[1]).getAll('order')
  const window = async () => {
    await shown({ setup: () => () => null }, {})
    return useDay()
  }
  book.on('GET /api/day', { date: '2026-12-01', start: '2026-12-01T10:42:00-06:00', crews: [] })
  await (await window()).make(['v', 'u'])
  const anew = await window()
  expect(anew.plan).toBeNull()
  await anew.asAsked()
  expect(order()).toEqual(['v', 'u'])
  await anew.asAsked()
  expect(order()).toEqual([])
})
