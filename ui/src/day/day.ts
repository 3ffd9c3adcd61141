import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { clockThere } from '../frame/words'

interface Kept {
  asked: {
    tract: string
    stand: string
    text: string
    status: string[]
    home: boolean
    date: string
    start: string
    end: string
    snow: string
    crews: number
    break: number
  }
  from: [number, number] | null
  to: [number, number] | null
  pin: string[]
  drop: string[]
  order: string[] // of one's own; none: the program's
}

/** A day's plan: made anew from the same question whenever it is asked, so that nothing of it is kept but the question. */
export const useDay = defineStore('day', () => {
  const day = (at: Date) => `${at.getFullYear()}-${String(at.getMonth() + 1).padStart(2, '0')}-${String(at.getDate()).padStart(2, '0')}`
  const tomorrow = () => day(new Date(Date.now() + 86_400_000))
  const serializer = { read: (v: string) => JSON.parse(v) as Kept, write: (v: Kept) => JSON.stringify(v) }
  /** Kept on the device, so that the day goes on after the window was closed or the battery died. */
  const kept = useLocalStorage<Kept>('palethicket.day', fresh(), { serializer, mergeDefaults: true })
  function fresh(): Kept {
    return {
      asked: {
        tract: '',
        stand: '',
        text: '',
        status: [],
        home: false,
        date: tomorrow(),
        start: '09:00',
        end: '',
        snow: '',
        crews: 1,
        break: 0,
      },
      from: null,
      to: null,
      pin: [],
      drop: [],
      order: [],
    }
  }
  const asked = computed(() => kept.value.asked)
  const from = computed({ get: () => kept.value.from, set: (v) => (kept.value.from = v) })
  const to = computed({ get: () => kept.value.to, set: (v) => (kept.value.to = v) })
  const pin = computed({ get: () => kept.value.pin, set: (v) => (kept.value.pin = v) })
  const drop = computed({ get: () => kept.value.drop, set: (v) => (kept.value.drop = v) })
  const order = computed({ get: () => kept.value.order ?? [], set: (v) => (kept.value.order = v) })
  const going = ref(false) // it goes on from now
  const plan = ref<Schemas['DayPlan'] | null>(null)
  const { wrong, busy, ask } = useAsk({ typed: true })

  const query = computed(() => ({
    ...Object.fromEntries(Object.entries(asked.value).filter(([, v]) => (Array.isArray(v) ? v.length : v))),
    ...(going.value ? { going: true } : {}),
    ...(from.value ? { from: from.value.join() } : {}), // one place, not two values
    ...(to.value ? { to: to.value.join() } : {}),
    ...(order.value.length ? { order: order.value } : {}),
    ...(pin.value.length ? { pin: pin.value } : {}),
    ...(drop.value.length ? { drop: drop.value } : {}),
  }))
  const search = computed(() => {
    const q = new URLSearchParams()
    for (const [name, value] of Object.entries(query.value)) {
      if (Array.isArray(value)) value.forEach((v) => q.append(name, String(v)))
      else q.set(name, String(value))
    }
    return q.toString()
  })

  /** Plans it; in an order of one's own where one put it so. */
  async function make(own: string[] = []) {
    order.value = own
    await again()
  }

  /** Plans it as it was asked last: an order of one's own stays. */
  async function again() {
    const { data, at } = await ask(api.GET('/api/day', { params: { query: query.value as never } }))
    if (at?.includes('order')) order.value = [] // nobody can walk it so: the next press plans anew
    if (!data) return
    plan.value = data
    if (going.value) Object.assign(asked.value, { date: data.date, start: clockThere(data.start) })
    going.value = false
  }

  /** Plans it as the form says: anew, or, in a window just opened, in the order that one put it in before. */
  async function asAsked() {
    going.value = false
    await (plan.value ? make() : again())
  }

  /** Has a stop come earlier (-1) or later (1) than it did. */
  async function move(at: number, by: -1 | 1) {
    const ids = (plan.value?.crews?.[0]?.stops ?? []).map((s) => s.id)
    const [id] = ids.splice(at, 1)
    if (id) ids.splice(at + by, 0, id)
    await make(ids)
  }

  /** Leaves a tree out; an order of one's own stays without it. */
  async function leaveOut(id: string) {
    drop.value = [...drop.value, id]
    pin.value = pin.value.filter((p) => p !== id)
    order.value = order.value.filter((p) => p !== id)
    await again()
  }

  /** Goes on from a place and now, to where the day was to end; with what is left of a crew's stops in their order, or planned anew. */
  async function goOn(at: [number, number], left: string[]) {
    to.value = to.value ?? (plan.value?.to as [number, number] | undefined) ?? null
    from.value = at
    going.value = true
    if (left.length) Object.assign(asked.value, { crews: 1 })
    await make(left)
  }

  /** Begins with nothing pinned, left out or said. */
  function anew() {
    kept.value = fresh()
    plan.value = null
  }

  return { asked, from, to, goOn, leaveOut, anew, move, pin, drop, order, plan, wrong, busy, search, make, again, asAsked }
})
