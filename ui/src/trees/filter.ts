import { refDebounced } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, type Stand } from '../api/client'

/** Which trees are looked at: the same for the list, the worklist, the map and files. */
export const useFilter = defineStore('filter', () => {
  const typed = ref('')
  const text = refDebounced(typed, 250)
  const tract = ref('')
  const stand = ref('')
  const status = ref<string[]>([])
  const all = ref<Stand[]>([])

  const tracts = computed(() => [...new Set(all.value.map((s) => s.tract))])
  const stands = computed(() => all.value.filter((s) => !tract.value || s.tract === tract.value))
  const where = computed(() => ({ tract: tract.value || undefined, stand: stand.value || undefined }))
  const query = computed(() => ({
    ...where.value,
    text: text.value.trim() || undefined,
    status: status.value.length ? [...status.value] : undefined,
  }))
  /** The same, for an address of a file. */
  const search = computed(() => {
    const out = new URLSearchParams()
    for (const [key, value] of Object.entries(query.value)) {
      for (const v of Array.isArray(value) ? value : value ? [value] : []) out.append(key, v)
    }
    return out.toString()
  })

  async function load() {
    const { data } = await api.GET('/api/stands')
    all.value = data ?? []
  }

  function choose(t: string, s: string) {
    tract.value = t
    stand.value = s
  }

  function toggle(id: string) {
    status.value = status.value.includes(id) ? status.value.filter((s) => s !== id) : [...status.value, id]
  }

  return { typed, text, tract, stand, status, all, tracts, stands, where, query, search, load, choose, toggle }
})
