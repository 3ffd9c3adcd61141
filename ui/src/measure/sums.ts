import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { bare, unitOf, usualUnit, written } from './written'

interface Done {
  at: string
  sum: string
  words: string
  given: string
  says: string
}

/** The sums of the tally card, what was typed for each last, and what came of them. */
export const useSums = defineStore('sums', () => {
  const all = ref<Schemas['SumAsked'][]>([])
  const chosen = useLocalStorage('palethicket.measure.sum', 'height-angles')
  const typed = useLocalStorage<Record<string, Record<string, string>>>('palethicket.measure.typed', {})
  const units = useLocalStorage<Record<string, string>>('palethicket.measure.units', {})
  const done = useLocalStorage<Done[]>('palethicket.measure.done', [])
  const result = ref<Schemas['SumResult'] | null>(null)
  const { wrong, busy, ask } = useAsk({ typed: true })
  const sum = computed(() => all.value.find((s) => s.id === chosen.value) ?? null)
  const most = 30

  async function load() {
    const { data } = await ask(api.GET('/api/sums'))
    if (data) all.value = data
  }

  const unit = (i: Schemas['SumInput']) => units.value[i.kind] || usualUnit(i.kind)

  async function work(given: Record<string, string>) {
    const s = sum.value
    if (!s) return
    result.value = null
    const asked: Record<string, unknown> = { id: s.id, sum: s.id }
    for (const i of s.inputs ?? []) {
      const text = given[i.name]?.trim()
      if (!text) continue
      asked[i.name] = written(i.kind, text, unit(i))
      if (['length', 'lengths', 'slope'].includes(i.kind) && !bare(text) && unitOf(text)) units.value[i.kind] = unitOf(text)
    }
    typed.value[s.id] = given
    const { data } = await ask(api.POST('/api/sums', { body: { sums: [asked] } as unknown as Schemas['SumsAsked'] }))
    if (!data?.[0]) return
    result.value = data[0]
    if (data[0].error) return
    const said = (s.inputs ?? []).filter((i) => given[i.name]?.trim()).map((i) => `${i.words.toLowerCase()} ${given[i.name]}`)
    done.value = [
      { at: new Date().toISOString(), sum: s.id, words: s.words, given: said.join(', '), says: data[0].says ?? '' },
      ...done.value,
    ].slice(0, most)
  }

  return { all, chosen, sum, typed, done, result, wrong, busy, load, work, unit }
})
