import { refDebounced } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { useStands } from './stands'

/** The pages that have trees looked for on them, each with a filter of its own. */
export type Filtered = 'trees' | 'worklist' | 'map' | 'files' | 'stands'

/** Which trees a page looks at. It stays with its page, and is seen there. */
export function useFilter(page: Filtered) {
  return defineStore(`filter of ${page}`, () => {
    const known = useStands()
    const typed = ref('')
    const text = refDebounced(typed, 250)
    const tract = ref('')
    const stand = ref('')
    const status = ref<string[]>([])
    const aside = ref(false) // those that were set aside, and only those
    const home = ref(false) // those that need a twig in hand
    const buds = ref(false) // those first whose winter marks go first

    const stands = computed(() => known.all.filter((s) => !tract.value || s.tract === tract.value))
    const where = computed(() => ({ tract: tract.value || undefined, stand: stand.value || undefined }))
    const query = computed(() => ({
      ...where.value,
      text: text.value.trim() || undefined,
      status: status.value.length ? [...status.value] : undefined,
      aside: aside.value || undefined,
      home: home.value || undefined,
      sort: buds.value ? ('buds' as const) : undefined,
    }))
    const on = computed(() => Object.values(query.value).some(Boolean))
    /** The same, for an address of a file. */
    const search = computed(() => {
      const out = new URLSearchParams()
      for (const [key, value] of Object.entries(query.value)) {
        for (const v of Array.isArray(value) ? value : value ? [value] : []) out.append(key, String(v))
      }
      return out.toString()
    })

    function choose(t: string, s: string) {
      tract.value = t
      stand.value = s
    }

    function toggle(id: string) {
      status.value = status.value.includes(id) ? status.value.filter((s) => s !== id) : [...status.value, id]
    }

    function clear() {
      typed.value = ''
      choose('', '')
      status.value = []
      aside.value = false
      home.value = false
      buds.value = false
    }

    return { typed, text, tract, stand, status, aside, home, buds, stands, where, query, on, search, choose, toggle, clear }
  })()
}
