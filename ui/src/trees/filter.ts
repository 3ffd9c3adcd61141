import { watchDebounced } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter, stringifyQuery, type LocationQuery } from 'vue-router'
import { leaving } from '../frame/place'
import { useStands } from './stands'

/** The pages that have trees looked for on them, each with a filter of its own. */
export type Filtered = 'trees' | 'worklist' | 'map' | 'files' | 'stands'

/** Which trees a page looks at. It stays with its page, and is seen there. */
export function useFilter(page: Filtered) {
  return defineStore(`filter of ${page}`, () => {
    const known = useStands()
    const typed = ref('')
    const text = ref('')
    watchDebounced(typed, (now) => (text.value = now), { debounce: 250 })
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
    /** The same, as an address has it. */
    const address = computed(() =>
      Object.fromEntries(Object.entries(query.value).flatMap(([key, v]) => (v ? [[key, Array.isArray(v) ? v : String(v)]] : []))),
    )
    const search = computed(() => stringifyQuery(address.value))

    function choose(t: string, s: string) {
      tract.value = t
      stand.value = s
    }

    function toggle(id: string) {
      status.value = status.value.includes(id) ? status.value.filter((s) => s !== id) : [...status.value, id]
    }

    /** Takes over what an address says. */
    function take(asked: LocationQuery) {
      const words = (key: string) => [asked[key] ?? []].flat().filter((v) => v !== null)
      typed.value = text.value = words('text')[0] ?? ''
      choose(words('tract')[0] ?? '', words('stand')[0] ?? '')
      status.value = words('status')
      aside.value = words('aside')[0] === 'true'
      home.value = words('home')[0] === 'true'
      buds.value = words('sort')[0] === 'buds'
    }
    const clear = () => take({})

    return { typed, text, tract, stand, status, aside, home, buds, stands, where, query, on, address, search, choose, toggle, clear, take }
  })()
}

/** Keeps a page's filter in its address, so that a link, or coming back, shows the same trees. */
export function useFilterInAddress(page: Filtered) {
  const filter = useFilter(page)
  const route = useRoute()
  const router = useRouter()
  const own = route.path // while another page is opened, this one is still there
  const keys = Object.keys(filter.query)
  const starting = () => Boolean(route.query.begin) // a new tree, whose place the address says
  if (!starting() && keys.some((key) => key in route.query)) filter.take(route.query)
  watch(
    [() => filter.query, () => route.fullPath],
    () => {
      if (route.path !== own || starting() || leaving()) return
      const others = Object.entries(route.query).filter(([key]) => !keys.includes(key))
      const query = { ...Object.fromEntries(others), ...filter.address }
      if (router.resolve({ path: own, query }).fullPath !== route.fullPath) void router.replace({ path: own, query })
    },
    { immediate: true },
  )
  return filter
}
