import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, type Stand } from '../api/client'

/** The tracts and stands of the book. */
export const useStands = defineStore('stands', () => {
  const all = ref<Stand[]>([])
  const tracts = computed(() => [...new Set(all.value.map((s) => s.tract))])

  async function load() {
    const { data } = await api.GET('/api/stands')
    all.value = data ?? []
  }

  const standsOf = (tract: string) => all.value.filter((s) => s.tract === tract).map((s) => s.stand)

  /** Stands with their tract, as a select offers them. */
  const places = computed(() => all.value.map((s) => ({ key: `${s.tract}\n${s.stand}`, words: `${s.stand}, ${s.tract}` })))

  return { all, tracts, places, standsOf, load }
})
