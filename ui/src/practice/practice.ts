import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { useSession } from '../frame/session'
import { useSettings } from '../frame/settings'
import type { Among } from '../frame/vocabulary'

export type Kind = 'twig' | 'bark' | 'outline' | 'ground'
export type Sure = 'sure' | 'fair' | 'guess'

/** A picture as an address of its own. */
const inline = (picture: Blob) =>
  new Promise<string>((resolve) => {
    const reader = new FileReader()
    reader.addEventListener('load', () => resolve(String(reader.result)))
    reader.readAsDataURL(picture)
  })

/** One session: a card is asked, answered, and the next is asked, until it is left. */
export const usePractice = defineStore('practice', () => {
  const kinds = useLocalStorage<Kind[]>('palethicket.practice.kinds', ['twig', 'bark'])
  const fresh = useLocalStorage('palethicket.practice.new', 20)
  const wanted = useLocalStorage('palethicket.practice.wanted', 0.9)
  const tillSure = useLocalStorage('palethicket.practice.tillSure', false)
  const card = ref<Schemas['Card'] | null>(null)
  const verdict = ref<Schemas['CardVerdict'] | null>(null)
  const figures = ref<Schemas['Practised'] | null>(null)
  const answered = ref(0)
  const picture = ref('')
  const settings = useSettings()
  const session = useSession()
  const who = computed(() => ({ ...(session.name ? { by: session.name } : {}), wanted: wanted.value }))
  const { wrong, busy, ask } = useAsk()
  const own = useAsk() // of several questions one way only the last is heard
  let began = 0

  async function next(among: Among) {
    verdict.value = null
    const { data } = await ask(
      api.POST('/api/practice/cards', {
        params: { query: { ...who.value, ...among, kind: kinds.value, new: Number(fresh.value) || 0, till_sure: tillSure.value } },
      }),
    )
    if (data) card.value = data
    await draw()
    began = performance.now()
  }

  /** The drawing is kept while it is looked at: once it was answered nobody can ask for it again. */
  async function draw() {
    picture.value = ''
    if (!card.value?.id) return
    const query = new URLSearchParams({ theme: settings.shown, ...(session.name ? { by: session.name } : {}) })
    const res = await fetch(`/api/practice/cards/${card.value.id}/drawing?${query}`).catch(() => null)
    if (res?.ok) picture.value = await inline(await res.blob())
    else wrong.value = ['The drawing did not come.']
  }

  /** Without a name it is not known. */
  async function answer(name: { rank: string; name: string } | null, sure: Sure) {
    if (!card.value?.id || verdict.value || busy.value) return
    const body = {
      ...(name ? { ...name, sure } : {}),
      seconds: Math.round((performance.now() - began) / 100) / 10,
    } as Schemas['CardAnswer']
    const params = { path: { id: card.value.id }, query: who.value }
    const { data } = await ask(api.POST('/api/practice/cards/{id}/answer', { params, body }))
    if (!data) return
    verdict.value = data
    answered.value++
  }

  async function look() {
    const { data } = await own.ask(api.GET('/api/practice/figures', { params: { query: who.value } }))
    if (data) figures.value = data
  }

  /** How many cards are due; none where that cannot be asked. */
  async function due(): Promise<number> {
    const { data } = await own.ask(api.GET('/api/practice/due', { params: { query: who.value } }))
    return data ?? 0
  }

  async function forget() {
    await own.ask(api.DELETE('/api/practice/answers', { params: { query: who.value } }))
    answered.value = 0
    await look()
  }

  return { kinds, fresh, wanted, tillSure, card, verdict, figures, answered, wrong, busy, next, answer, look, due, forget, picture }
})
