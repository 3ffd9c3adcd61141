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

  return { all, tracts, load }
})
