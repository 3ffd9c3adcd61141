import { beforeEach, describe, expect, it, vi } from 'vitest'
import { server } from '../testing/server'

const book = server()
const { shown } = await import('../testing/page')
const { useSession } = await import('../frame/session')
const { useSettings } = await import('../frame/settings')
const NameBars = (await import('./NameBars.vue')).default

beforeEach(() => {
  book.forget()
  book.on('GET /api/lists/weighing', { going: false, done: 0, left: 0, wrong: '' })
})

describe('from when a name is probable', () => {
  it('is chosen by a lead, for everybody', async () => {
    book.on('PUT /api/bars', {})
    const page = await shown(NameBars, {})
    expect(page.text()).toContain('to species from 90 %')
    expect(page.find('[aria-pressed="true"]')?.textContent?.trim()).toBe('70 %')
    expect(page.root.querySelectorAll('[data-probably-from]')).toHaveLength(7)
    await page.press('[data-probably-from="0.8"]')
    await vi.waitFor(() => expect(book.last('PUT')?.body).toEqual({ probably: 0.8 }))
  })
  it('says what the book would not have', async () => {
    book.on('PUT /api/bars', { detail: 'want a chance from 0.55 to 0.85' })
    const page = await shown(NameBars, {})
    await page.press('[data-probably-from="0.85"]')
    await vi.waitFor(() => expect(page.find('[role="alert"]')?.textContent).toContain('ant a chance from 0.55 to 0.85'))
  })
  it('is only read by others', async () => {
    const page = await shown(NameBars, {})
    useSession().session = { needed: true, name: 'Tobias Okafor', role: 'observer', checking: '' }
    await vi.waitFor(() => expect(page.find('[data-probably-from]')).toBeNull())
    expect(page.text()).toContain('A lead of the crew sets it')
  })
})

it('a theme and a size of text are put on at once', async () => {
  await shown({ setup: () => (useSettings(), () => null) }, {})
  const page = document.documentElement
  useSettings().theme = 'contrast'
  useSettings().text = 150
  await vi.waitFor(() => expect([page.dataset.theme, page.style.fontSize]).toEqual(['contrast', '150%']))
  useSettings().theme = 'light'
  useSettings().text = 100
})
