import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { asked, useWork } from './work'
import { bare, unitOf, usualUnit } from './written'

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
  const { result, wrong, busy, work: ask } = useWork()
  const listing = useAsk()
  const sum = computed(() => all.value.find((s) => s.id === chosen.value) ?? null)
  const most = 30

  async function load() {
    if (all.value.length) return
    const { data } = await listing.ask(api.GET('/api/sums'))
    if (data) all.value = data
  }

  const unit = (i: Schemas['SumInput']) => units.value[i.kind] || usualUnit(i.kind)

  async function work(given: Record<string, string>) {
    const s = sum.value
    if (!s) return
    for (const i of s.inputs ?? []) {
      const text = given[i.name]?.trim() ?? ''
      if (['length', 'lengths', 'slope'].includes(i.kind) && !bare(text) && unitOf(text)) units.value[i.kind] = unitOf(text)
    }
    typed.value[s.id] = given
    const came = await ask(s, asked(s, given, unit))
    if (!came || came.error) return
    const said = (s.inputs ?? []).filter((i) => given[i.name]?.trim()).map((i) => `${i.words.toLowerCase()} ${given[i.name]}`)
    done.value = [
      { at: new Date().toISOString(), sum: s.id, words: s.words, given: said.join(', '), says: came.says ?? '' },
      ...done.value,
    ].slice(0, most)
  }

  return { all, chosen, sum, typed, done, result, wrong, busy, load, work, unit }
})
