import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'

/** A day's plan: made anew from the same question whenever it is asked, so that nothing of it is kept but the question. */
export const useDay = defineStore('day', () => {
  const tomorrow = () => new Date(Date.now() + 86_400_000).toISOString().slice(0, 10)
  const asked = ref({ tract: '', stand: '', date: tomorrow(), start: '09:00', end: '', crews: 1 })
  const from = useLocalStorage<[number, number] | null>('palethicket.day.from', null, {
    serializer: { read: (v) => JSON.parse(v) as [number, number] | null, write: (v) => JSON.stringify(v) },
  })
  const pin = ref<string[]>([])
  const drop = ref<string[]>([])
  const plan = ref<Schemas['DayPlan'] | null>(null)
  const { wrong, busy, ask } = useAsk({ typed: true })

  const query = computed(() => ({
    ...Object.fromEntries(Object.entries(asked.value).filter(([, v]) => v)),
    ...(from.value ? { from: from.value } : {}),
    ...(pin.value.length ? { pin: pin.value } : {}),
    ...(drop.value.length ? { drop: drop.value } : {}),
  }))
  const search = computed(() => {
    const q = new URLSearchParams()
    for (const [name, value] of Object.entries(query.value)) {
      if (name === 'from') q.set(name, (value as number[]).join(','))
      else if (Array.isArray(value)) value.forEach((v) => q.append(name, String(v)))
      else q.set(name, String(value))
    }
    return q.toString()
  })

  async function make() {
    const { data } = await ask(api.GET('/api/day', { params: { query: query.value as never } }))
    if (data) plan.value = data
  }

  return { asked, from, pin, drop, plan, wrong, busy, search, make }
})
