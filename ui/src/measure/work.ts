import { ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { written } from './written'

export type Sum = Schemas['SumAsked']
export type Given = Record<string, string>

/** What was typed for a sum, as the book takes it. */
export function asked(s: Sum, given: Given, unit: (i: Schemas['SumInput']) => string): Record<string, unknown> {
  const out: Record<string, unknown> = {}
  for (const i of s.inputs ?? []) {
    const text = given[i.name]?.trim()
    if (text) out[i.name] = written(i.kind, text, unit(i))
  }
  return out
}

/** A field for each input, with the first of its words where it is one of some. */
export function begun(s: Sum | null | undefined): Given {
  return Object.fromEntries((s?.inputs ?? []).filter((i) => i.of?.length).map((i) => [i.name, i.of![0]!]))
}

/** Does one sum. */
export function useWork() {
  const result = ref<Schemas['SumResult'] | null>(null)
  const { wrong, busy, ask } = useAsk({ typed: true })

  async function work(s: Sum, inputs: Record<string, unknown>): Promise<Schemas['SumResult'] | null> {
    result.value = null
    const sums = [{ id: s.id, sum: s.id, ...inputs }] as unknown as Schemas['SumsAsked']['sums']
    const { data, overtaken } = await ask(api.POST('/api/sums', { body: { sums } }))
    if (overtaken) return null
    result.value = data?.[0] ?? null
    return result.value
  }

  return { result, wrong, busy, work }
}
