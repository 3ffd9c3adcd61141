import { onTestFinished } from 'vitest'
import PrimeVue from 'primevue/config'
import ConfirmationService from 'primevue/confirmationservice'
import { useSession } from '../frame/session'
import { tooltip } from '../frame/tooltip'
import { freshPinia } from './pinia'
import { createApp, h, nextTick, type Component, type FunctionalComponent } from 'vue'

const link: FunctionalComponent = (_props, { slots }) => h('a', slots.default?.())

/** A component on a page of its own, with what it emitted under 'score'. */
export function mount<T>(component: Component, props: Record<string, unknown>) {
  const pinia = freshPinia()
  useSession().session = { needed: false, name: '', role: 'lead', checking: '' }
  const emitted: T[] = []
  const root = document.createElement('div')
  document.body.append(root)
  const scores = String((component as { emits?: string[] }).emits).includes('score')
  const listening = scores ? { ...props, onScore: (s: T) => emitted.push(s) } : props
  const app = createApp({ render: () => h(component, listening) })
    .use(pinia)
    .use(PrimeVue, { theme: 'none' })
    .use(ConfirmationService)
    .component('RouterLink', link)
    .directive('tooltip', tooltip)
  app.mount(root)
  let there = true
  const leave = () => {
    if (there) app.unmount()
    there = false
  }
  onTestFinished(() => {
    leave()
    root.remove()
  })
  const find = (css: string) => root.querySelector<HTMLElement>(css)
  return {
    root,
    emitted,
    find,
    leave,
    async press(css: string) {
      find(css)?.click()
      await nextTick()
    },
    text: () => (root.textContent ?? '').replace(/\s+/g, ' ').trim(),
  }
}
