import { defineStore } from 'pinia'
import { ref, watch } from 'vue'
import { ulid } from 'ulid'
import { api, problemLines, type TreeLine } from '../api/client'
import { useFilter } from './filter'

const page = 60

/** The list of trees, a page at a time. */
export const useTrees = defineStore('trees', () => {
  const filter = useFilter()
  const trees = ref<TreeLine[]>([])
  const total = ref(0)
  const error = ref('')
  const loaded = ref(false)
  let asked = 0

  /** Fetches the first page, or the next one; an answer to an older question is dropped. */
  async function fetch(offset: number) {
    const mine = ++asked
    error.value = ''
    try {
      const { data, error: problem } = await api.GET('/api/trees', { params: { query: { ...filter.query, limit: page, offset } } })
      if (mine !== asked) return
      if (data) {
        trees.value = [...trees.value.slice(0, offset), ...(data.trees ?? [])]
        total.value = data.total
      } else error.value = problemLines(problem).join(' ')
    } catch {
      error.value = 'No connection to the book.'
    }
    loaded.value = true
  }

  const load = () => fetch(0)
  const more = () => fetch(trees.value.length)
  watch(() => filter.query, load)

  /** Starts a tree; gives its id, or the lines that say what was wrong. */
  async function start(tag: string, tract: string, stand: string, region: string): Promise<{ id?: string; wrong?: string[] }> {
    const id = ulid()
    try {
      const { data, error } = await api.POST('/api/trees', {
        body: { id, tag: tag.trim(), tract: tract.trim(), stand: stand.trim(), region },
      })
      return data ? { id } : { wrong: problemLines(error) }
    } catch {
      return { wrong: ['No connection to the book. What you typed is still here; try again.'] }
    }
  }

  return { trees, total, error, loaded, load, more, start }
})
