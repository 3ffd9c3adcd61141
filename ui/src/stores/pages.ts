import { ref, type Ref } from 'vue'
import { problemLines, type Schemas } from '../api/client'

interface Page<T> {
  data?: { trees: T[] | null; total: number }
  error?: Schemas['ErrorModel']
}

/** A long list that comes a page at a time. An answer to an older question is dropped. */
export function usePages<T>(ask: (limit: number, offset: number) => Promise<Page<T>>, limit = 60) {
  const list = ref([]) as Ref<T[]>
  const total = ref(0)
  const error = ref('')
  const loaded = ref(false)
  let asked = 0

  async function fetch(offset: number) {
    const mine = ++asked
    error.value = ''
    try {
      const { data, error: problem } = await ask(limit, offset)
      if (mine !== asked) return
      if (data) {
        list.value = [...list.value.slice(0, offset), ...(data.trees ?? [])]
        total.value = data.total
      } else error.value = problemLines(problem).join(' ')
    } catch {
      error.value = 'No connection to the book.'
    }
    loaded.value = true
  }

  return { list, total, error, loaded, load: () => fetch(0), more: () => fetch(list.value.length) }
}
