import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, problemLines, type Session } from '../api/client'

/** Who is at work: the one signed in, or, on one's own machine, whoever says so. */
export const useSession = defineStore('session', () => {
  const session = ref<Session | null>(null)
  const own = useLocalStorage('palethicket.observer', '', { writeDefaults: false })
  const name = computed(() => (session.value?.needed ? session.value.name : own.value))
  const ready = computed(() => session.value !== null && (!session.value.needed || session.value.role !== ''))
  const may = (role: 'lead' | 'observer') => session.value?.role === 'lead' || (role === 'observer' && session.value?.role === 'observer')

  async function load() {
    const { data } = await api.GET('/api/session')
    if (data) session.value = data
  }

  async function signIn(who: string, password: string): Promise<string[]> {
    try {
      const { data, error } = await api.POST('/api/session', { body: { name: who, password } })
      if (data) session.value = data
      return data ? [] : problemLines(error)
    } catch {
      return ['No connection to the book; try again.']
    }
  }

  async function signOut() {
    const { data } = await api.DELETE('/api/session')
    if (data) session.value = data
  }

  return { session, own, name, ready, may, load, signIn, signOut }
})
