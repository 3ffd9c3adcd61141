import { ref, type Ref } from 'vue'
import type { Schemas } from '../api/client'
import { useAsk } from './ask'

interface Page<T> {
  data?: { trees: T[] | null; total: number }
  error?: Schemas['ErrorModel']
  response: Response
}

const most = 500 // that the book gives at once
const mostPrinted = 5000

/**
 * A long list that comes a page at a time; again reads as much of it as was shown, so
 * that one comes back to the place one left. An answer to an older question is dropped.
 */
export function usePages<T>(page: (limit: number, offset: number) => Promise<Page<T>>, limit = 60) {
  const list = ref([]) as Ref<T[]>
  const total = ref(0)
  const loaded = ref(false)
  const { wrong, ask } = useAsk()

  async function fetch(offset: number, most = limit) {
    const { data } = await ask(page(most, offset))
    if (data) {
      list.value = [...list.value.slice(0, offset), ...(data.trees ?? [])]
      total.value = data.total
    }
    loaded.value ||= Boolean(data) || wrong.value.length > 0
  }

  /** Reads the rest, for printing: as much as anybody prints. */
  async function all() {
    while (list.value.length < Math.min(total.value, mostPrinted) && !wrong.value.length) await fetch(list.value.length, most)
  }

  return {
    list,
    all,
    total,
    wrong,
    loaded,
    load: () => fetch(0),
    again: () => fetch(0, Math.min(most, Math.max(limit, list.value.length))),
    more: () => fetch(list.value.length),
  }
}
