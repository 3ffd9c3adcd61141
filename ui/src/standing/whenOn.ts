import { shallowRef, watch } from 'vue'

/** What is asked only while something is switched on, and anew whenever what it hangs on changes. */
export function useWhenOn<T>(on: () => boolean, hangsOn: () => unknown, read: () => Promise<T | undefined>) {
  const answer = shallowRef<T | null>(null)
  watch([on, hangsOn], async ([is]) => (answer.value = is ? ((await read()) ?? null) : null), { immediate: true })
  return answer
}
