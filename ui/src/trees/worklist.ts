import { defineStore } from 'pinia'
import { watch } from 'vue'
import { api, type Unsettled } from '../api/client'
import { usePages } from '../frame/pages'
import { useFilter } from './filter'

/** The trees that are still to be settled. */
export const useWorklist = defineStore('worklist', () => {
  const filter = useFilter('worklist')
  const pages = usePages<Unsettled>((limit, offset) => api.GET('/api/worklist', { params: { query: { ...filter.query, limit, offset } } }))
  watch(() => filter.query, pages.load)
  return pages
})
