/**
 * The worker that has the program (cmd/field) and the book. It alone can have the book's
 * file open, and there is one of it for all windows of a device.
 */
import { nothingHere, type Answer, type FromWorker, type Question, type Taking, type ToWorker } from './messages'

/** What the program adds to the worker. */
interface Field {
  open(file: string, base: string): Promise<null>
  take(file: string, before: string, base: string, taken: string): Promise<string>
  ask(method: string, url: string, headers: [string, string][], body: Uint8Array | null): Promise<Answer>
  close(): Promise<null>
}

interface Scope {
  Go: new () => { importObject: WebAssembly.Imports; run(instance: WebAssembly.Instance): Promise<void> }
  fs: Record<string, (...args: never[]) => void>
  ready: () => void
  field: Field
  postMessage(message: FromWorker, transfer?: Transferable[]): void
}
const scope = globalThis as unknown as Scope

/** A file as only a worker can have it (File System Standard). */
interface Handle {
  write(data: Uint8Array, at: { at: number }): number
  truncate(size: number): void
  flush(): void
  close(): void
}

/** Opens a file; one that a window which is just being closed still has is tried again for five seconds. */
async function handleOf(name: string): Promise<Handle> {
  const file = (await (await folder()).getFileHandle(name, { create: true })) as FileSystemFileHandle & {
    createSyncAccessHandle(): Promise<Handle>
  }
  for (let n = 0; ; n++) {
    try {
      return await file.createSyncAccessHandle()
    } catch (e) {
      if (n === 50) throw e
      await new Promise((wait) => setTimeout(wait, 100))
    }
  }
}

/** The file that says which of the device's files is the book. */
const current = 'current'
const programs = 'palethicket-program'

let loading: Promise<Field> | undefined
let opened: Promise<void> | undefined
let stopTaking: AbortController | undefined

/** Loads the program: kept on the device, else from home. */
function load(address: string): Promise<Field> {
  loading ??= (async () => {
    await import(/* @vite-ignore */ `${location.origin}/wasm_exec.js`)
    // SQLite marks that a file is open by a folder beside it; nobody else could see it here.
    const done = (...args: unknown[]) => (args.at(-1) as (err: null) => void)(null)
    Object.assign(scope.fs, { mkdir: done, rmdir: done, unlink: done })
    const kept = await caches.open(programs)
    const go = new scope.Go()
    const { instance } = await WebAssembly.instantiateStreaming((await kept.match(address)) ?? fetch(address), go.importObject).catch(
      async (e: unknown) => {
        await kept.delete(address) // it is damaged: the next time it is fetched anew
        loading = undefined
        throw new Error(`The program on this device does not start (${String(e)}). It is fetched anew with a connection: try again.`)
      },
    )
    const ready = new Promise<void>((resolve) => (scope.ready = resolve))
    void go.run(instance).then(
      () => scope.postMessage({ died: 'the program ended' }),
      (e: unknown) => scope.postMessage({ died: String(e) }),
    )
    await ready
    return scope.field
  })()
  return loading
}

const folder = () => navigator.storage.getDirectory()

async function bookFile(): Promise<string> {
  try {
    const file = await (await (await folder()).getFileHandle(current)).getFile()
    return await file.text()
  } catch {
    return '' // there is none
  }
}

async function setBookFile(name: string) {
  const handle = await handleOf(current)
  const text = new TextEncoder().encode(name)
  handle.write(text, { at: 0 })
  handle.truncate(text.length)
  handle.flush()
  handle.close()
}

/** Removes the files of all books but one; none named: of every book. */
async function removeBooks(but = '') {
  const dir = await folder()
  const names: string[] = []
  for await (const name of (dir as unknown as { keys(): AsyncIterable<string> }).keys()) names.push(name)
  for (const name of names) if (!but || (name !== current && !name.startsWith(but))) await dir.removeEntry(name).catch(() => undefined)
}

async function open(address: string) {
  const [field, file] = await Promise.all([load(address), bookFile()])
  if (!file) throw new Error(nothingHere)
  opened ??= field.open(file, location.origin).then(async () => removeBooks(file))
  try {
    await opened
  } catch (e) {
    opened = undefined
    throw e
  }
}

async function ask(address: string, q: Question): Promise<Answer> {
  if (!opened) await open(address)
  await opened
  return (await load(address)).ask(q.method, q.url, q.headers, q.body)
}

/** Fetches a part of the book, makes it this device's, and takes over what the one before held. */
async function take(address: string, t: Taking): Promise<string> {
  stopTaking = new AbortController()
  const field = await load(address)
  const name = `book-${Date.now()}.db`
  try {
    await download(name, t, stopTaking.signal)
    const before = await bookFile()
    if (before) await field.close()
    opened = undefined
    const session = await field.take(name, before, location.origin, JSON.stringify(t))
    await setBookFile(name)
    opened = removeBooks(name)
    return session
  } catch (e) {
    const dir = await folder()
    for (const end of ['', '-wal', '-journal']) await dir.removeEntry(name + end).catch(() => undefined)
    if (stopTaking.signal.aborted) throw new Error('Stopped: nothing was taken along.', { cause: e })
    throw e
  } finally {
    stopTaking = undefined
  }
}

async function download(name: string, t: Taking, signal: AbortSignal) {
  const asked = new URLSearchParams(t.tracts.map((tract) => ['tract', tract]))
  if (t.photos) asked.set('photos', 'true')
  const res = await fetch(`/api/along?${asked}`, { signal, headers: t.token ? { Authorization: `Bearer ${t.token}` } : {} })
  if (!res.ok || !res.body) throw new Error(((await res.json()) as { detail?: string }).detail ?? res.statusText)
  const all = Number(res.headers.get('X-Unpacked'))
  const handle = await handleOf(name)
  let done = 0
  try {
    handle.truncate(0)
    for (const reader = res.body.getReader(); ;) {
      const { value, done: end } = await reader.read()
      if (end) break
      if (handle.write(value, { at: done }) < value.length) throw new Error('There is no room left on this device.')
      done += value.length
      scope.postMessage({ progress: { done, all } })
    }
    handle.flush()
  } finally {
    handle.close()
  }
  if (all && done !== all) throw new Error('The connection broke before all of it had come; nothing was taken along.')
}

/** How many bytes the book takes. */
async function size(): Promise<number> {
  const file = await bookFile()
  const dir = await folder()
  let sum = 0
  for (const end of ['', '-wal'])
    sum += await dir.getFileHandle(file + end).then(
      async (h) => (await h.getFile()).size,
      () => 0,
    )
  return sum
}

async function clear(address: string) {
  if (opened) await (await load(address)).close()
  opened = undefined
  await removeBooks()
  return null
}

function run(m: ToWorker): Promise<unknown> {
  switch (m.do) {
    case 'open':
      return open(m.program)
    case 'ask':
      return ask(m.program, m.question)
    case 'take':
      return take(m.program, m.taking)
    case 'size':
      return size()
    case 'clear':
      return clear(m.program)
    case 'cancel':
      stopTaking?.abort()
      return Promise.resolve(null)
  }
}

/** After such an answer, as of a full device, the book is opened anew: nobody knows what SQLite still believes. */
const shaken = (value: unknown) => [500, 507].includes((value as Answer | null)?.status ?? 0)

addEventListener('message', (e: MessageEvent<ToWorker>) => {
  const { id } = e.data
  run(e.data).then(
    (value) => {
      const body = (value as Answer | null)?.body
      scope.postMessage({ id, ok: true, value }, body ? [body.buffer as ArrayBuffer] : [])
      if (shaken(value)) scope.postMessage({ died: 'an answer went wrong' })
    },
    (why: unknown) => scope.postMessage({ id, ok: false, why: why instanceof Error ? why.message : String(why) }),
  )
})
