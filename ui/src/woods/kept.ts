/**
 * What the device's book answered last, so that a page shows something while the program
 * still opens it. Once it is open the same is asked again, and shown where it is otherwise.
 */
const answers = 'palethicket-answers'
const shown = new Map<string, string>() // what was given before the book was open, by address
let open = false

/** Is called once the book answers: with whether what was shown meanwhile is out of date. */
let outdated: (() => void) | undefined
export const onOutdated = (then: () => void) => (outdated = then)

const kept = (path: string) => !path.startsWith('/api/away') && !path.startsWith('/api/photos/')

/** What was answered last, if the book is not open yet. */
export async function lastAnswer(request: Request): Promise<Response | undefined> {
  if (open || request.method !== 'GET') return undefined
  const { pathname, search } = new URL(request.url)
  const found = await caches
    .open(answers)
    .then((c) => c.match(pathname + search))
    .catch(() => undefined)
  if (found) shown.set(pathname + search, await found.clone().text())
  return found
}

/** Keeps an answer of the book's. */
export async function keepAnswer(request: Request, answer: Response) {
  const { pathname, search } = new URL(request.url)
  if (request.method !== 'GET' || answer.status !== 200 || !kept(pathname)) return
  const copy = answer.clone()
  await caches
    .open(answers)
    .then((c) => c.put(pathname + search, copy))
    .catch(() => undefined) // a full device is read all the same
}

/** Says that the book is open: asks again what was shown before. */
export async function opened(ask: (request: Request) => Promise<Response>) {
  if (open) return
  open = true
  for (const [path, text] of shown) {
    const now = await ask(new Request(location.origin + path))
    if ((await now.text()) !== text) {
      shown.clear()
      return outdated?.()
    }
  }
}

/** Forgets all answers, as when somebody else is at work. */
export const forgetAnswers = async () => 'caches' in window && (await caches.delete(answers))
