import { defineStore } from 'pinia'
import { ref } from 'vue'
import { ulid } from 'ulid'
import { api, problemLines, type TreeLine } from '../api/client'

/** The list of trees and its places. */
export const useTrees = defineStore('trees', () => {
  const trees = ref<TreeLine[]>([])
  const total = ref(0)
  const places = ref<{ tract: string; stand: string }[]>([])
  const error = ref('')
  const loaded = ref(false)

  async function load() {
    error.value = ''
    try {
      const [list, where] = await Promise.all([api.GET('/api/trees'), api.GET('/api/places')])
      trees.value = list.data?.trees ?? []
      total.value = list.data?.total ?? 0
      places.value = where.data ?? []
      if (!list.data) error.value = problemLines(list.error).join(' ')
    } catch {
      error.value = 'No connection to the book.'
    }
    loaded.value = true
  }

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

  return { trees, total, places, error, loaded, load, start }
})
