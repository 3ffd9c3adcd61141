import { createPinia, disposePinia, setActivePinia } from 'pinia'
import { onTestFinished } from 'vitest'

/** Stores of a test's own. All tests share one page, so what the stores began ends with the test. */
export function freshPinia() {
  const pinia = createPinia()
  setActivePinia(pinia)
  onTestFinished(() => disposePinia(pinia))
  return pinia
}
