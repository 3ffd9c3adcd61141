/**
 * The device's own book, to the page: questions go to the worker instead of over the line.
 * Of several windows one has the worker, and answers for the others; when it closes, the
 * next starts it, and what was not answered is asked again. Every entry has its id, so that
 * twice asked is as once.
 */
import { ulid } from 'ulid' // unlike crypto.randomUUID it is there where a page is not served securely
import { ref } from 'vue'
import { saveAs } from '../frame/save'
import { forgetAnswers, keepAnswer, lastAnswer, opened } from './kept'
import { nothingHere, type Answer, type FromWorker, type Job, type Question, type Taking } from './messages'

const flag = 'palethicket.along' // what the page must know before it asks anything
const lock = 'palethicket.book'

interface Along {
  program: string // address of the program as it was taken along
  session: string
}

function along(): Along | null {
  try {
    return JSON.parse(localStorage.getItem(flag) ?? 'null') as Along | null
  } catch {
    return null
  }
}

/** Where it is written so that it lasts: what is in localStorage is seen to the disk minutes later. */
const lasting = 'palethicket-along'

async function remember(a: Along) {
  const text = JSON.stringify(a)
  localStorage.setItem(flag, text)
  await (await caches.open(lasting)).put('/along', new Response(text))
}

/** Looks whether the device took something along, where the browser was ended before it wrote that down. */
export async function recall() {
  if (isAway() || !('caches' in window)) return
  const kept = await (await caches.open(lasting)).match('/along')
  if (kept) localStorage.setItem(flag, await kept.text())
}

/** Whether this device works on its own book. */
export const isAway = () => along() !== null

/** Begins to open the device's book, before anything is asked of it. */
export function begin() {
  if (isAway()) void put({ do: 'open' }).catch(() => undefined) // what is asked says what is wrong
}

/** The browser cleared the book away that was taken along. */
export const taken = ref(false)

/** Why the book on this device does not answer; empty: it does. */
export const stuck = ref('')

/** Starts the program anew, and the page with it. */
export const tryAgain = () => location.reload()

/** Saves the book's files as they lie, without the program: what was entered last stands in the second. */
export async function saveBook() {
  const folder = await navigator.storage.getDirectory()
  const file = async (name: string) => (await folder.getFileHandle(name)).getFile()
  const name = await (await file('current')).text()
  for (const end of ['', '-wal']) {
    const part = await file(name + end).catch(() => null)
    if (part?.size) saveAs(part, 'device.db' + end)
  }
}

/** Works with home's book again, after that of the device was cleared away. */
export async function goHome() {
  localStorage.removeItem(flag)
  await Promise.all([caches.delete(lasting), forgetAnswers()])
  location.assign('/')
}

/** How far taking along is, in bytes. */
export const progress = ref<{ done: number; all: number } | null>(null)

interface Asked {
  job: Job
  program: string
  resolve: (value: never) => void
  reject: (why: Error) => void
}

const asked = new Map<string, Asked>()
const self = ulid()
let channel: BroadcastChannel | undefined
let worker: Worker | undefined
let number = 0
const mine = new Map<number, { id: string; from: string }>()

type Said =
  | { to: 'leader'; from: string; id: string; program: string; job: Job }
  | { to: string; id: string; answer: FromWorker }
  | { to: 'all'; leads: true }

/** Joins the other windows, and waits to have the worker. */
function join() {
  if (channel) return
  channel = new BroadcastChannel(lock)
  channel.addEventListener('message', (e: MessageEvent<Said>) => hear(e.data))
  void navigator.locks.request(lock, () => {
    startWorker()
    channel?.postMessage({ to: 'all', leads: true } satisfies Said)
    for (const [id, a] of asked) toWorker(id, self, a.program, a.job)
    return new Promise(() => undefined) // as long as the window is there
  })
}

function hear(said: Said) {
  if ('leads' in said) {
    for (const [id, a] of asked) channel?.postMessage({ to: 'leader', from: self, id, program: a.program, job: a.job } satisfies Said)
  } else if ('job' in said) {
    if (worker) toWorker(said.id, said.from, said.program, said.job)
  } else if (said.to === self) {
    settle(said.id, said.answer)
  }
}

function startWorker() {
  worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' })
  worker.addEventListener('message', (e: MessageEvent<FromWorker>) => {
    if ('progress' in e.data) progress.value = e.data.progress
    else if ('died' in e.data) revive()
    else deliver(e.data)
  })
  worker.addEventListener('error', revive)
}

/** A worker that broke is replaced, and asked once more what it did not answer. */
function revive() {
  worker?.terminate()
  mine.clear()
  startWorker()
  channel?.postMessage({ to: 'all', leads: true } satisfies Said)
  for (const [id, a] of asked) toWorker(id, self, a.program, a.job)
}

function toWorker(id: string, from: string, program: string, job: Job) {
  mine.set(++number, { id, from })
  worker?.postMessage({ ...job, id: number, program })
}

function deliver(answer: Exclude<FromWorker, { progress: unknown } | { died: string }>) {
  const whose = mine.get(answer.id)
  mine.delete(answer.id)
  if (!whose) return
  if (whose.from === self) settle(whose.id, answer)
  else channel?.postMessage({ to: whose.from, id: whose.id, answer } satisfies Said)
}

function settle(id: string, answer: FromWorker) {
  const a = asked.get(id)
  asked.delete(id)
  if (!a || !('ok' in answer)) return
  if (answer.ok) a.resolve(answer.value as never)
  else a.reject(new Error(answer.why))
}

/** Has the worker do something, in whichever window it is. */
function put<T>(job: Job, program = along()?.program ?? ''): Promise<T> {
  join()
  return new Promise<T>((resolve, reject) => {
    const id = ulid()
    asked.set(id, { job, program, resolve: resolve as (value: never) => void, reject })
    if (worker) toWorker(id, self, program, job)
    else channel?.postMessage({ to: 'leader', from: self, id, program, job } satisfies Said)
  })
}

const cookie = 'palethicket='

/** Asks the device's book what a fetch would ask home. */
export async function askDevice(request: Request): Promise<Response> {
  const answer = askBook(request.clone())
  const last = await lastAnswer(request)
  if (!last) return answer
  answer.catch(() => undefined) // it is asked again
  return last
}

async function askBook(request: Request): Promise<Response> {
  const headers = [...request.headers] as [string, string][]
  const { session } = along() ?? { session: '' }
  if (session) headers.push(['Cookie', cookie + session])
  const body = request.body || request.method !== 'GET' ? new Uint8Array(await request.arrayBuffer()) : null
  const { pathname, search } = new URL(request.url)
  const question: Question = { method: request.method, url: pathname + search, headers, body: body?.length ? body : null }
  let answer: Response
  try {
    answer = answered(await put<Answer>({ do: 'ask', question }))
  } catch (e) {
    const why = e instanceof Error ? e.message : String(e)
    if (why === nothingHere) taken.value = true
    else stuck.value = why
    return unable(why)
  }
  stuck.value = ''
  await keepAnswer(request, answer)
  void opened(askBook)
  return answer
}

/** What keeps the device's book from answering is said as the book would say it. */
function unable(why: string): Response {
  const detail = `The book on this device does not answer: ${why}`
  return new Response(JSON.stringify({ detail }), { status: 503, headers: { 'Content-Type': 'application/problem+json' } })
}

function answered(a: Answer): Response {
  const headers = new Headers()
  for (const [name, value] of a.headers) {
    if (name.toLowerCase() === 'set-cookie') keepSession(value)
    else headers.append(name, value)
  }
  const bare = a.status === 204 || a.status === 304 || a.status < 200
  return new Response(bare ? null : (a.body as Uint8Array<ArrayBuffer>), { status: a.status, headers })
}

function keepSession(set: string) {
  void forgetAnswers()
  const now = along()
  const [, value] = /^palethicket=([^;]*)/.exec(set) ?? []
  if (now) void remember({ ...now, session: value ?? '' })
}

/** Takes tracts along; from then on the device works on its own book. */
export async function takeAlong(taking: Taking, program: string) {
  const before = along()
  const session = await put<string>({ do: 'take', taking }, program)
  progress.value = null
  await remember({ program, session: session || before?.session || '' })
  await forgetAnswers()
  for (const path of firstAsked) await askBook(new Request(location.origin + path)) // so that the next opening shows it at once
}

/** What the first view asks. */
const firstAsked = ['/api/session', '/api/vocabulary', '/api/stands', '/api/trees?limit=60&offset=0']

/** Has the device's next start be with another program. */
export function setProgram(program: string) {
  const now = along()
  if (now) void remember({ ...now, program })
}

/** Stops taking along. */
export const stopTaking = () => put({ do: 'cancel' })

/** How many bytes the device's book takes. */
export const bookSize = () => put<number>({ do: 'size' })

/** Clears the device: the page works on home's book again. */
export async function clearDevice() {
  await put({ do: 'clear' })
  await forgetAnswers()
  localStorage.removeItem(flag)
  await caches.delete(lasting)
}

/** The service worker has pictures and files that a page asks for by their address answered here. */
export function answerServiceWorker() {
  navigator.serviceWorker?.addEventListener('message', (e: MessageEvent<{ ask: string }>) => {
    const port = e.ports[0]
    if (!port || !e.data?.ask) return
    if (!isAway()) return port.postMessage(null)
    askDevice(new Request(e.data.ask)).then(
      async (r) =>
        port.postMessage({ status: r.status, headers: [...r.headers], body: new Uint8Array(await r.arrayBuffer()) } satisfies Answer),
      () => port.postMessage(null),
    )
  })
}
