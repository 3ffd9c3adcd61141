import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from './ask'

/** Who is at work: the one signed in, or, on one's own machine, whoever says so. */
export const useSession = defineStore('session', () => {
  const session = ref<Schemas['Session'] | null>(null)
  const own = useLocalStorage('palethicket.observer', '', { writeDefaults: false })
  const name = computed(() => (session.value?.needed ? session.value.name : own.value))
  const ready = computed(() => session.value !== null && (!session.value.needed || session.value.role !== ''))
  const may = (role: 'lead' | 'observer') => session.value?.role === 'lead' || (role === 'observer' && session.value?.role === 'observer')

  /** The check cruise one is at: until it is finished its trees are all there is. */
  const checking = computed(() => session.value?.checking ?? '')

  /** Whose session ended while they were at work; what they have on the page stays under the form. */
  const ended = ref('')

  async function load() {
    const before = ready.value && session.value?.needed ? session.value.name : ''
    const { data } = await api.GET('/api/session')
    if (!data) return
    session.value = data
    if (before && !ready.value) ended.value = before
  }

  api.use({
    onResponse({ request, response }) {
      if (response.status === 401 && ready.value && !request.url.endsWith('/api/session')) void load().catch(() => undefined)
      return undefined
    },
  })

  const { wrong, busy, ask } = useAsk({ typed: true })
  async function signIn(who: string, password: string) {
    const { data } = await ask(api.POST('/api/session', { body: { name: who, password } }))
    if (!data) return
    if (ended.value && ended.value !== data.name) location.assign('/') // nobody goes on in what another had open
    session.value = data
    ended.value = ''
  }

  /** Signing out needs an answer: without one the session stays as it is, and the page says so. */
  const leaving = useAsk()
  async function signOut() {
    const { data } = await leaving.ask(api.DELETE('/api/session'))
    if (data) session.value = data
    else if (leaving.wrong.value.length) leaving.wrong.value = [...leaving.wrong.value, 'You are still signed in.']
  }

  return { session, checking, own, name, ready, ended, wrong, busy, may, load, signIn, signOut, notOut: leaving.wrong }
})
