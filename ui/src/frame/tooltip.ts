import Tooltip from 'primevue/tooltip'
import type { ObjectDirective } from 'vue'

/** The library shows a tooltip to a mouse or to the keyboard; this one shows it to both. */
const mounted: ObjectDirective<HTMLElement>['mounted'] = (el, binding, node) => {
  ;(Tooltip as ObjectDirective<HTMLElement>).mounted?.(el, binding, node, null)
  el.addEventListener('focus', () => el.matches(':focus-visible') && el.dispatchEvent(new MouseEvent('mouseenter')))
  el.addEventListener('blur', () => el.dispatchEvent(new MouseEvent('mouseleave')))
}

export const tooltip = { ...Tooltip, mounted } as ObjectDirective<HTMLElement>
