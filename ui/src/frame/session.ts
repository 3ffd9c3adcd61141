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

  async function load() {
    const { data } = await api.GET('/api/session')
    if (data) session.value = data
  }

  const { wrong, busy, ask } = useAsk({ typed: true })
  async function signIn(who: string, password: string) {
    const { data } = await ask(api.POST('/api/session', { body: { name: who, password } }))
    if (data) session.value = data
  }

  async function signOut() {
    const { data } = await api.DELETE('/api/session')
    if (data) session.value = data
  }

  return { session, own, name, ready, wrong, busy, may, load, signIn, signOut }
})
