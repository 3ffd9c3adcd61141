import { refDebounced } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, type Place } from '../api/client'
import type { StatusID } from '../words'

/** Which trees are looked at: the same for the list, the worklist, the map and files. */
export const useFilter = defineStore('filter', () => {
  const typed = ref('')
  const text = refDebounced(typed, 250)
  const tract = ref('')
  const stand = ref('')
  const status = ref<StatusID[]>([])
  const places = ref<Place[]>([])

  const tracts = computed(() => [...new Set(places.value.map((p) => p.tract))])
  const stands = computed(() => places.value.filter((p) => !tract.value || p.tract === tract.value))
  const place = computed(() => ({ tract: tract.value || undefined, stand: stand.value || undefined }))
  const query = computed(() => ({
    ...place.value, text: text.value.trim() || undefined, status: status.value.length ? [...status.value] : undefined,
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
    const { data } = await api.GET('/api/places')
    places.value = data ?? []
  }

  function choose(t: string, s: string) {
    tract.value = t
    stand.value = s
  }

  function toggle(id: StatusID) {
    status.value = status.value.includes(id) ? status.value.filter((s) => s !== id) : [...status.value, id]
  }

  return { typed, text, tract, stand, status, places, tracts, stands, place, query, search, load, choose, toggle }
})
