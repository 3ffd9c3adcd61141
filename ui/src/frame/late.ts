import { nextTick, useTemplateRef } from 'vue'

/**
 * Keeps a field's list (its ref is "list") closed once something was chosen. The field searches 300 ms after the last
 * key; on a slow device a choice can come before that, and the list would open again.
 */
export function useLate() {
  const list = useTemplateRef<{ hide(): void }>('list')
  /** Whether a search came too late: what was typed is no longer in the field. */
  return (query: string, choice: unknown): boolean => {
    if (query === '' || typeof choice === 'string') return false
    void nextTick(() => list.value?.hide())
    return true
  }
}
