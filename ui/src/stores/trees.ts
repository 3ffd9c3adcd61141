import { defineStore } from 'pinia'
import { watch } from 'vue'
import { ulid } from 'ulid'
import { api, problemLines, type TreeLine } from '../api/client'
import { useFilter } from './filter'
import { usePages } from './pages'

/** The list of trees. */
export const useTrees = defineStore('trees', () => {
  const filter = useFilter()
  const pages = usePages<TreeLine>((limit, offset) => api.GET('/api/trees', { params: { query: { ...filter.query, limit, offset } } }))
  watch(() => filter.query, pages.load)

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

  return { trees: pages.list, total: pages.total, error: pages.error, loaded: pages.loaded, load: pages.load, more: pages.more, start }
})
