import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { useSession } from '../frame/session'
import { useSettings } from '../frame/settings'
import type { Among } from '../frame/vocabulary'

export type Kind = 'twig' | 'bark' | 'outline' | 'ground' | 'word' | 'pair'
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
  const pictures = ref<string[]>([])
  const settings = useSettings()
  const session = useSession()
  const who = computed(() => ({ ...(session.name ? { by: session.name } : {}), wanted: wanted.value }))
  const { wrong, busy, ask } = useAsk()
  const drawing = useAsk()
  const naming = useAsk()
  const suggesting = useAsk()
  const own = useAsk() // of several questions one way only the last is heard
  let began = 0
  let wantedNext: { among: Among; deck: string } | undefined
  let asking: Promise<void> | undefined

  /** Asks for a card; what was wanted meanwhile is asked for after it, as the book asks everybody one card at a time. */
  function next(among: Among, deck: string): Promise<void> {
    wantedNext = { among, deck }
    asking ??= askAll().finally(() => (asking = undefined))
    return asking
  }

  async function askAll() {
    while (wantedNext) {
      const { among, deck } = wantedNext
      wantedNext = undefined
      await askFor(among, deck)
    }
  }

  async function askFor(among: Among, deck: string) {
    verdict.value = null
    card.value = null // so that nothing is said to the question before
    const { data } = await ask(
      api.POST('/api/practice/cards', {
        params: {
          query: {
            ...who.value,
            ...among,
            kind: kinds.value,
            new: Number(fresh.value) || 0,
            till_sure: tillSure.value,
            ...(deck ? { deck } : {}),
          },
        },
      }),
    )
    if (wantedNext) return // another is asked for
    card.value = data ?? null
    await draw()
    began = performance.now()
  }

  /** A drawing is kept while it is looked at: once it was answered nobody can ask for it again. */
  async function draw() {
    pictures.value = []
    const of = card.value
    if (!of?.id) return
    for (const second of of.kind === 'pair' ? ['', 'true'] : ['']) {
      const query = { theme: settings.shown as 'light', ...(session.name ? { by: session.name } : {}), ...(second ? { second: true } : {}) }
      const { data } = await drawing.ask(
        api.GET('/api/practice/cards/{id}/drawing', { params: { path: { id: of.id }, query }, parseAs: 'blob' }),
      )
      if (card.value?.id !== of.id) return
      if (!data) wrong.value = ['The drawing did not come.']
      else pictures.value = [...pictures.value, await inline(data as unknown as Blob)]
    }
  }

  /** An answer without a name, a state or a first is that it is not known. */
  async function answer(said: Partial<Schemas['CardAnswer']>) {
    if (!card.value?.id || verdict.value || busy.value) return
    const body = { ...said, seconds: Math.round((performance.now() - began) / 100) / 10 } as Schemas['CardAnswer']
    const params = { path: { id: card.value.id }, query: who.value }
    const { data } = await ask(api.POST('/api/practice/cards/{id}/answer', { params, body }))
    if (!data) return
    verdict.value = data
    answered.value++
  }

  /** What a typed name may mean of the trees that are asked, and what went wrong in asking. */
  async function meant(id: string, typed: string, by = naming) {
    const params = { path: { id }, query: { ...who.value, typed } }
    const { data } = await by.ask(api.GET('/api/practice/cards/{id}/names', { params }))
    return { data, wrong: by.wrong.value }
  }

  const suggest = async (id: string, typed: string) => (await meant(id, typed, suggesting)).data?.names ?? []

  async function look() {
    const { data } = await own.ask(api.GET('/api/practice/figures', { params: { query: who.value } }))
    if (data) figures.value = data
  }

  /** How many cards are due; none where that cannot be asked. */
  async function due(): Promise<number> {
    const { data } = await own.ask(api.GET('/api/practice/due', { params: { query: who.value } }))
    return data ?? 0
  }

  async function share(shared: boolean) {
    await own.ask(api.PUT('/api/practice/sharing', { params: { query: who.value }, body: { shared } }))
    await look()
  }

  async function forget() {
    await own.ask(api.DELETE('/api/practice/answers', { params: { query: who.value } }))
    answered.value = 0
    await look()
  }

  return {
    kinds,
    fresh,
    wanted,
    tillSure,
    card,
    verdict,
    figures,
    answered,
    wrong,
    busy,
    next,
    answer,
    meant,
    suggest,
    look,
    due,
    share,
    forget,
    pictures,
  }
})
