import { useDocumentVisibility } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { isAway } from '../woods/device'

type State = Schemas['InstrumentState']
export type Reading = Schemas['InstrumentReading'] & { instrument: string }

const channel = 'palethicket.instruments'
/** How old a reading may be that is still offered, and how often is asked where events cannot come. */
const fresh = 90_000
const pause = 2000

/**
 * How the instruments do, and what each read last. Of all windows one listens and tells the
 * others: a browser has few connections to one address, and pages need them.
 */
export const useInstruments = defineStore('instruments', () => {
  const all = ref<State[]>([])
  const taken = ref<number[]>([]) // serials that were taken here
  const now = ref(Date.now())
  const visibility = useDocumentVisibility()
  let users = 0
  let stop = () => {}

  function take(states: Schemas['InstrumentStates']) {
    all.value = states.all ?? []
    now.value = Date.now()
  }

  async function look() {
    try {
      const { data } = await api.GET('/api/instruments')
      if (data) take(data)
    } catch {
      all.value = [] // home does not answer: nothing can be taken
    }
  }

  function listen(): () => void {
    if (isAway()) return () => {}
    void look()
    const ended = new AbortController()
    const tick = window.setInterval(() => (now.value = Date.now()), 5000)
    ended.signal.addEventListener('abort', () => window.clearInterval(tick))
    if (!navigator.locks || typeof BroadcastChannel === 'undefined') {
      const timer = window.setInterval(look, pause)
      ended.signal.addEventListener('abort', () => window.clearInterval(timer))
      return () => ended.abort()
    }
    const others = new BroadcastChannel(channel)
    others.onmessage = (e: MessageEvent<Schemas['InstrumentStates']>) => take(e.data)
    ended.signal.addEventListener('abort', () => others.close())
    const held = navigator.locks.request(channel, { signal: ended.signal }, () => hear(ended.signal, others))
    held.catch(() => {}) // it left before its turn came
    return () => ended.abort()
  }

  /** Listens to home, and tells the other windows, until it leaves. */
  function hear(ended: AbortSignal, others: BroadcastChannel): Promise<void> {
    const events = new EventSource('/api/instruments/live')
    events.onmessage = (e: MessageEvent<string>) => {
      const states = JSON.parse(e.data) as Schemas['InstrumentStates']
      take(states)
      if (!ended.aborted) others.postMessage(states)
    }
    events.onerror = () => (all.value = [])
    return new Promise((done) =>
      ended.addEventListener('abort', () => {
        events.close()
        done()
      }),
    )
  }

  /** Keeps up with them while somebody looks; gives what ends it. */
  function use(): () => void {
    if (users++ === 0) stop = listen()
    return () => {
      if (--users === 0) stop()
    }
  }
  watch(visibility, (v) => {
    if (!users) return
    stop()
    stop = v === 'visible' ? listen() : () => {}
  })

  /** What can be taken now, the newest first. */
  const readings = computed<Reading[]>(() =>
    all.value
      .filter((s) => s.last && now.value - Date.parse(s.last.at) < fresh && !taken.value.includes(s.last.serial))
      .map((s) => ({ ...s.last!, instrument: s.name }))
      .sort((a, b) => b.serial - a.serial),
  )

  function took(r: Reading) {
    taken.value = [...taken.value.slice(-50), r.serial]
  }

  return { all, readings, use, took }
})
