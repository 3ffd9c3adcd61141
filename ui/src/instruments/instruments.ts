import { useDocumentVisibility } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { isAway } from '../woods/device'

type State = Schemas['InstrumentState']
export type Reading = Schemas['InstrumentReading'] & { instrument: string }

/**
 * Whether what home listens to is at hand: a receiver is cabled to the machine that serves. Who comes to it over the network
 * stands elsewhere, and goes by the position of the device in the hand.
 */
export const atHome = () => ['localhost', '127.0.0.1', '[::1]'].includes(location.hostname)

const channel = 'palethicket.instruments'
/** How often is asked where events cannot come. */
const pause = 2000

/**
 * How the instruments do, and what each read last. Of all windows one listens and tells the
 * others: a browser has few connections to one address, and pages need them.
 */
export const useInstruments = defineStore('instruments', () => {
  const all = ref<State[]>([])
  const taken = ref<number[]>([]) // serials that were taken here
  const visibility = useDocumentVisibility()
  let users = 0
  let stop = () => {}

  function take(states: Schemas['InstrumentStates']) {
    all.value = states.all ?? []
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

  /** What can be taken now, the newest first. What is too old home no longer tells. */
  const readings = computed<Reading[]>(() =>
    all.value
      .filter((s) => s.last && !taken.value.includes(s.last.serial))
      .map((s) => ({ ...s.last!, instrument: s.name }))
      .sort((a, b) => b.serial - a.serial),
  )

  /** Takes a reading, for everybody; says whether nobody else had taken it. A position is there for all. */
  async function took(r: Reading): Promise<boolean> {
    taken.value = [...taken.value.slice(-50), r.serial]
    if (r.kind === 'position') return true
    try {
      return (await api.POST('/api/instruments/taken', { body: { serial: r.serial } })).response.status !== 409
    } catch {
      return true // home does not answer, and nobody else can ask it
    }
  }

  return { all, readings, use, took }
})
