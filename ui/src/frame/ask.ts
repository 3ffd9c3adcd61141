import { ref } from 'vue'
import { problemLines, type Schemas } from '../api/client'

/** What the client answers: with what was asked for, or with what was wrong. */
interface Answer<T> {
  data?: T
  error?: Schemas['ErrorModel']
  response: Response
}

export const noConnection = 'No connection to the book.'
const stillHere = ' What you typed is still here; try again.'

/**
 * Asks the book, and keeps what was wrong to be shown. With typed, it says that nothing
 * that was typed is lost. Of several questions at once only the last is heard; the others
 * say that they were overtaken, and nothing is to be made of them.
 */
export function useAsk(options: { typed?: boolean } = {}) {
  const wrong = ref<string[]>([])
  const busy = ref(false)
  let asked = 0

  async function ask<T>(question: Promise<Answer<T>>): Promise<{ ok: boolean; data?: T; overtaken?: boolean }> {
    const mine = ++asked
    wrong.value = []
    busy.value = true
    try {
      const { data, error, response } = await question
      if (mine !== asked) return { ok: false, overtaken: true }
      if (!response.ok) wrong.value = problemLines(error)
      return { ok: response.ok, data: response.ok ? data : undefined }
    } catch {
      if (mine !== asked) return { ok: false, overtaken: true }
      wrong.value = [options.typed ? noConnection + stillHere : noConnection]
      return { ok: false }
    } finally {
      if (mine === asked) busy.value = false
    }
  }

  return { wrong, busy, ask }
}
