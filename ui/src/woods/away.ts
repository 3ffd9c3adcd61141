import { useDocumentVisibility, useEventListener, useIntervalFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, home, problemLines, type Schemas } from '../api/client'
import { useSession } from '../frame/session'
import { bookSize, clearDevice, isAway, progress, stopTaking, takeAlong } from './device'
import { fetchProgram, programAtHome } from './program'
import { pagesKept } from './renew'

const looked = 10_000 // how often the page asks how the device stands

/** The device's own book, and how it stands towards home. */
export const useAway = defineStore('away', () => {
  const session = useSession()
  const on = ref(isAway())
  const status = ref<Schemas['Status'] | null>(null)
  const size = ref(0)
  const room = ref({ used: 0, all: 0 })
  const lasting = ref<boolean | null>(null)
  const weights = ref<Schemas['Weight'][]>([])
  const program = ref<{ bytes: number } | null>(null)
  const devices = ref<Schemas['Device'][]>([]) // one's own, as home knows them
  const taking = ref('') // what is being done
  const wrong = ref<string[]>([])
  const count = computed(() => status.value?.count ?? 0)

  async function look() {
    if (!on.value) return
    const { data } = await api.GET('/api/away').catch(() => ({ data: undefined }))
    if (data) status.value = data
  }

  async function measure() {
    const [bytes, stored, kept] = await Promise.all([
      on.value ? bookSize().catch(() => 0) : 0,
      navigator.storage?.estimate?.() ?? {},
      navigator.storage?.persisted?.() ?? null,
    ])
    size.value = bytes
    room.value = { used: stored.usage ?? 0, all: stored.quota ?? 0 }
    lasting.value = kept
  }

  /** What home has to be taken along. */
  async function weigh() {
    wrong.value = []
    try {
      const [found, here] = await Promise.all([home.GET('/api/weights'), programAtHome()])
      if (found.data) weights.value = found.data
      else wrong.value = problemLines(found.error)
      program.value = here
      if (session.session?.needed) devices.value = (await home.GET('/api/devices')).data?.filter((d) => d.whose === session.name) ?? []
    } catch {
      wrong.value = ['Home cannot be reached: tracts are taken along where there is a connection.']
    }
  }

  /** Whose the device will be: at home who is signed in gets a token for it. On a device that is who is at work there. */
  async function person(device: string) {
    const now = (await home.GET('/api/session')).data
    if (!now?.needed) return { guarded: false, device, name: '', role: '', token: '', until: '', hash: '' }
    const other = on.value && session.name && now.name !== session.name
    if (!now.role || other) throw new Error(`Sign out, and sign in here as ${session.name || 'yourself'} with a connection. Then download.`)
    const { data, error } = await home.POST('/api/devices', { body: { name: device } })
    if (!data) throw new Error(problemLines(error).join(' '))
    ended = () => home.DELETE('/api/devices/{id}', { params: { path: { id: data.id } } })
    return { guarded: true, device, name: data.whose, role: now.role, token: data.token, until: data.until, hash: data.hash }
  }
  let ended = (): Promise<unknown> => Promise.resolve() // ends the token of a try that failed

  let halt = new AbortController()
  /** Stops taking along, whatever of it is going on. */
  function stop() {
    halt.abort()
    if (taking.value) void stopTaking()
  }

  async function take(tracts: string[], photos: boolean, device: string) {
    wrong.value = []
    halt = new AbortController()
    const { signal } = halt
    try {
      taking.value = 'Fetching the program…'
      lasting.value = (await navigator.storage?.persist?.()) ?? null
      const address = await fetchProgram((done, all) => (progress.value = { done, all }), signal)
      progress.value = null
      signal.throwIfAborted()
      taking.value = 'Fetching the trees…'
      await takeAlong({ tracts: [...tracts], photos, ...(await person(device)) }, address)
      if (!(await pagesKept())) wrong.value = ['The trees are on this device, but its pages could not be fetched. Take them along again.']
      on.value = true
      await Promise.all([session.load(), look(), measure()])
    } catch (e) {
      wrong.value = [
        signal.aborted
          ? 'Stopped. What came so far is kept: take along again to go on from there.'
          : e instanceof Error
            ? e.message
            : String(e),
      ]
      await ended().catch(() => undefined)
    } finally {
      ended = () => Promise.resolve()
      taking.value = ''
      progress.value = null
    }
  }

  async function meet() {
    if (!status.value) return
    status.value.busy = true
    const { data } = await api.POST('/api/away/meeting')
    if (data) status.value = data
  }

  async function tellAgain() {
    const { data } = await api.POST('/api/away/again')
    if (data) status.value = data
  }

  async function clear() {
    await clearDevice()
    location.assign('/')
  }

  const visibility = useDocumentVisibility()
  useIntervalFn(() => on.value && visibility.value === 'visible' && session.ready && void look(), looked)
  useEventListener(window, 'online', () => on.value && void meet())

  return {
    on,
    status,
    count,
    size,
    room,
    lasting,
    weights,
    program,
    devices,
    taking,
    wrong,
    look,
    measure,
    weigh,
    take,
    stop,
    meet,
    tellAgain,
    clear,
  }
})
