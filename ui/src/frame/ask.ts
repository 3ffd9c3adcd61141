import { ref } from 'vue'
import { problemLines, type Schemas } from '../api/client'

/** What the client answers: with what was asked for, or with what was wrong. */
interface Answer<T> {
  data?: T
  error?: Schemas['ErrorModel']
  response: Response
}

export const noConnection = 'No connection to the book.'
/** Fields by which one says that something is meant. */
const questions = ['new', 'merge', 'far', 'again']
const stillHere = ' What you typed is still here; try again.'

/**
 * Asks the book, and keeps what was wrong to be shown. With typed, it says that nothing
 * that was typed is lost. Of several questions at once only the last is heard; the others
 * say that they were overtaken, and nothing is to be made of them.
 */
export function useAsk(options: { typed?: boolean } = {}) {
  const wrong = ref<string[]>([])
  const busy = ref(false)
  const asked = ref('') // what the book asks whether it is meant: the field that says so
  let times = 0

  async function ask<T>(question: Promise<Answer<T>>): Promise<{ ok: boolean; data?: T; overtaken?: boolean; at?: string[] }> {
    const mine = ++times
    wrong.value = []
    asked.value = ''
    busy.value = true
    try {
      const { data, error, response } = await question
      if (mine !== times) return { ok: false, overtaken: true }
      if (response.ok) return { ok: true, data }
      const at = (error?.errors ?? []).map((e) => (e.location ?? '').replace('body.', '')) // the fields that are wrong
      wrong.value = problemLines(error)
      asked.value = questions.find((q) => at.includes(q)) ?? ''
      return { ok: false, at }
    } catch {
      if (mine !== times) return { ok: false, overtaken: true }
      wrong.value = [options.typed ? noConnection + stillHere : noConnection]
      return { ok: false }
    } finally {
      if (mine === times) busy.value = false
    }
  }

  return { wrong, busy, asked, ask }
}
