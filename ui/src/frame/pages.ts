import { ref, type Ref } from 'vue'
import type { Schemas } from '../api/client'
import { useAsk } from './ask'

interface Page<T> {
  data?: { trees: T[] | null; total: number }
  error?: Schemas['ErrorModel']
  response: Response
}

/** A long list that comes a page at a time. An answer to an older question is dropped. */
export function usePages<T>(page: (limit: number, offset: number) => Promise<Page<T>>, limit = 60) {
  const list = ref([]) as Ref<T[]>
  const total = ref(0)
  const loaded = ref(false)
  const { wrong, ask } = useAsk()

  async function fetch(offset: number) {
    const { data } = await ask(page(limit, offset))
    if (data) {
      list.value = [...list.value.slice(0, offset), ...(data.trees ?? [])]
      total.value = data.total
    }
    loaded.value ||= Boolean(data) || wrong.value.length > 0
  }

  return { list, total, wrong, loaded, load: () => fetch(0), more: () => fetch(list.value.length) }
}
