import { expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { api } from '../api/client'
import { mount } from '../testing/mount'
import NewTree from './NewTree.vue'

vi.mock('vue-router', () => ({ useRouter: () => ({}), useRoute: () => ({ query: {} }) }))

it.each([
  { what: 'an empty field', typed: '', tag: 'LC-402', selected: 'LC-402' },
  { what: 'one that somebody types in meanwhile', typed: 'LC', tag: 'LC', selected: '' },
])('the next tag comes into $what as $tag', async ({ typed, tag, selected }) => {
  let answer: (of: unknown) => void = () => {}
  vi.spyOn(api, 'GET').mockReturnValue(new Promise((r) => (answer = r)) as never)
  localStorage.setItem('palethicket.tract', 'Bluff ridge')
  localStorage.setItem('palethicket.stand', 'Upper slope')
  const field = mount(NewTree, {}).find('#new-tag') as HTMLInputElement
  await nextTick()
  if (typed) {
    field.value = typed
    field.setSelectionRange(2, 2)
    field.dispatchEvent(new Event('input'))
  }
  answer({ data: { tag: 'LC-402', tract: 'Bluff ridge', stand: 'Upper slope' } })
  await vi.waitFor(() => expect(field.value).toBe(tag))
  await new Promise((r) => setTimeout(r))
  expect(field.value.slice(field.selectionStart ?? 0, field.selectionEnd ?? 0)).toBe(selected)
})
