import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { server } from '../testing/server'

const asked = vi.fn((question: { header: string; accept: () => void }) => question.accept())
vi.mock('primevue/useconfirm', () => ({ useConfirm: () => ({ require: asked }) }))
vi.mock('primevue/usetoast', () => ({ useToast: () => ({ add: vi.fn() }) }))
vi.mock('../frame/PageFrame.vue', () => ({ default: { template: '<main><slot /></main>' } }))
const book = server()
const { shown } = await import('../testing/page')
const { useSession } = await import('../frame/session')
const { useOutbox } = await import('../frame/outbox')
const CrewView = (await import('./CrewView.vue')).default
const DeviceList = (await import('./DeviceList.vue')).default
const MemberRow = (await import('./MemberRow.vue')).default

const lead = { id: '1', name: 'Wren Halloran', role: 'lead', closed: false }
const roles = [
  { id: 'lead', words: 'lead' },
  { id: 'observer', words: 'observer' },
]

beforeEach(() => {
  book.forget()
  asked.mockClear()
})

describe('one of the crew', () => {
  it('changes role by a button, not by a slip of the wheel', async () => {
    const changed = vi.fn()
    const page = await shown(MemberRow, { member: lead, roles, busy: false, onChange: changed })
    const select = page.find('select') as unknown as HTMLSelectElement
    select.value = 'observer'
    select.dispatchEvent(new Event('change'))
    await nextTick()
    expect(changed).not.toHaveBeenCalled()
    await page.press('.press.lead')
    expect(changed).toHaveBeenCalledWith({ role: 'observer' })
  })
})

describe('the crew', () => {
  async function crew(name: string) {
    book.on('GET /api/session', { needed: true, name, role: 'lead' })
    book.on('GET /api/crew', [lead, { ...lead, id: '2', name: 'Tobias Okafor' }])
    book.on('GET /api/devices', [])
    const page = await shown(CrewView, {})
    await useSession().load()
    await vi.waitFor(() => expect(page.text()).toContain('Tobias Okafor'))
    return page
  }
  const patched = () => book.asked.filter((a) => a.method === 'PATCH')
  async function demote(page: Awaited<ReturnType<typeof crew>>, row: number) {
    const li = page.find(`.rows li:nth-child(${row})`) as unknown as HTMLElement
    const select = li.querySelector('select') as HTMLSelectElement
    select.value = 'observer'
    select.dispatchEvent(new Event('change'))
    await nextTick()
    li.querySelector<HTMLElement>('.press.lead')?.click()
    await vi.waitFor(() => expect(patched()).toHaveLength(1))
  }
  it('asks who would shut themselves out', async () => {
    await demote(await crew('Wren Halloran'), 1)
    expect(asked).toHaveBeenCalledOnce()
    expect(asked.mock.calls[0][0].header).toBe('Give up the role of lead?')
  })
  it('does not ask where it is somebody else', async () => {
    await demote(await crew('Wren Halloran'), 2)
    expect(asked).not.toHaveBeenCalled()
    expect(patched()[0].body).toEqual({ role: 'observer' })
  })
})

describe('signing out', () => {
  async function signedIn() {
    book.on('GET /api/crew', [lead])
    const page = await shown(CrewView, {})
    useSession().session = { needed: true, name: 'Wren Halloran', role: 'observer', checking: '' }
    await nextTick()
    return page
  }
  it('says that one is still signed in where nothing answers', async () => {
    const page = await signedIn()
    book.on('DELETE /api/session', () => {
      throw new TypeError('no connection')
    })
    await page.press('[data-sign-out]')
    await vi.waitFor(() => expect(page.text()).toContain('You are still signed in.'))
  })
  it('asks first where entries wait to be sent', async () => {
    const page = await signedIn()
    asked.mockImplementationOnce(() => undefined)
    useOutbox().items = [{ tree: 't', whose: 'Wren Halloran', entry: { id: 'e', by: 'Wren Halloran', kind: 'note' } }] as never
    await nextTick()
    await page.press('[data-sign-out]')
    expect(asked.mock.lastCall?.[0].header).toBe('Sign out?')
    expect(book.last('DELETE')).toBeUndefined()
    useOutbox().items = []
  })
})

it('ends a device once that is confirmed', async () => {
  book.on('GET /api/devices', [
    { id: 'd', name: 'tablet', whose: 'Tobias Okafor', since: '2026-11-01', until: '2026-12-01T10:00:00Z', ended: false },
  ])
  const page = await shown(DeviceList, {})
  await vi.waitFor(() => expect(page.text()).toContain('tablet'))
  await page.press('.press')
  expect(asked).toHaveBeenCalledOnce()
  await vi.waitFor(() => expect(book.last('DELETE')?.path).toBe('/api/devices/d'))
})
