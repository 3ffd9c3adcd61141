import { nextTick } from 'vue'
import { mount } from './mount'
import { giveWords } from './words'

/** A mounted component. */
export type Page = ReturnType<typeof mount>

export const all = (page: Page, css: string) => [...page.root.querySelectorAll<HTMLElement>(css)]

/** Writes into a field as a person would, and leaves it. */
export async function type(page: Page, css: string, value: string) {
  const field = page.find(css) as HTMLInputElement
  field.value = value
  field.dispatchEvent(new Event('input'))
  field.dispatchEvent(new Event('change'))
  await nextTick()
}

/** Mounts with the words that the book would give. */
export async function shown(component: Parameters<typeof mount>[0], props: Record<string, unknown>): Promise<Page> {
  const page = mount(component, props)
  giveWords()
  await nextTick()
  return page
}

/** Waits until what was asked has been answered and drawn. */
export async function settle() {
  for (let i = 0; i < 3; i++) {
    await new Promise((resolve) => setTimeout(resolve))
    await nextTick()
  }
}
