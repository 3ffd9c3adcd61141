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
  getSize(): number
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
        console.error(e)
        throw new Error('The program on this device does not start. With a connection it is fetched anew: try again there.')
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

/** What stands in a small file; nothing where there is none. */
async function read(name: string): Promise<string> {
  try {
    const file = await (await (await folder()).getFileHandle(name)).getFile()
    return await file.text()
  } catch {
    return ''
  }
}

async function write(name: string, text: string) {
  const handle = await handleOf(name)
  const bytes = new TextEncoder().encode(text)
  handle.write(bytes, { at: 0 })
  handle.truncate(bytes.length)
  handle.flush()
  handle.close()
}

const remove = async (name: string) => (await folder()).removeEntry(name).catch(() => undefined)

const bookFile = () => read(current)

/** Removes the files of all books but one, and leaves what is being fetched; none named: every file. */
async function removeBooks(but = '') {
  const dir = await folder()
  const names: string[] = []
  for await (const name of (dir as unknown as { keys(): AsyncIterable<string> }).keys()) names.push(name)
  const stays = but ? [current, but, partNote] : []
  for (const name of names) if (!stays.some((s) => name.startsWith(s))) await remove(name)
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
    await download(t, stopTaking.signal)
    await unpack(name)
    const before = await bookFile()
    if (before) await field.close()
    opened = undefined
    const session = await field.take(name, before, location.origin, JSON.stringify(t))
    await write(current, name)
    opened = removeBooks(name)
    return session
  } catch (e) {
    for (const end of ['', '-wal', '-journal']) await remove(name + end)
    if (e instanceof NoRoom) await Promise.all([partNote, partFile].map(remove))
    throw e
  } finally {
    stopTaking = undefined
  }
}

/** What of a part of the book has come: its bytes as they go over the line, and what they are of. */
const partFile = 'part.gz'
const partNote = 'part'

interface Begun {
  asked: string
  tag: string // by which home knows the bytes again
  unpacked: number
}

async function begun(): Promise<Begun | undefined> {
  try {
    return JSON.parse(await read(partNote)) as Begun
  } catch {
    return undefined // nothing was, or it is half written
  }
}

/** Fetches a part of the book, or the rest of the one that was begun. */
async function download(t: Taking, signal: AbortSignal) {
  const query = new URLSearchParams(t.tracts.map((tract) => ['tract', tract]))
  if (t.photos) query.set('photos', 'true')
  const asked = query.toString()
  const before = await begun()
  const handle = await handleOf(partFile)
  try {
    let done = before?.asked === asked ? handle.getSize() : 0
    const headers: Record<string, string> = t.token ? { Authorization: `Bearer ${t.token}` } : {}
    if (before && done) Object.assign(headers, { Range: `bytes=${done}-`, 'If-Range': before.tag })
    const res = await fetch(`/api/along?${asked}`, { signal, headers })
    if (res.status === 416) return // all of it had come
    if (!res.ok || !res.body) throw new Error(((await res.json()) as { detail?: string }).detail ?? res.statusText)
    if (res.status !== 206) {
      done = 0
      handle.truncate(0)
      const now: Begun = { asked, tag: res.headers.get('ETag') ?? '', unpacked: Number(res.headers.get('X-Unpacked')) }
      await write(partNote, JSON.stringify(now))
    }
    const all = done + Number(res.headers.get('Content-Length'))
    try {
      for await (const piece of pieces(res.body)) {
        put(handle, piece, done)
        done += piece.length
        scope.postMessage({ progress: { done, all } })
      }
    } catch (e) {
      if (signal.aborted || e instanceof NoRoom) throw e
    }
    if (done < all)
      throw new Error(`The connection broke. What came of it, ${Math.round((100 * done) / all)} %, is kept: try again to go on from there.`)
  } finally {
    handle.flush()
    handle.close()
  }
}

/** Makes a book's file of a part that has come whole. */
async function unpack(name: string) {
  const was = await begun()
  const packed = await (await (await folder()).getFileHandle(partFile)).getFile()
  const handle = await handleOf(name)
  let size = 0
  try {
    for await (const piece of pieces(packed.stream().pipeThrough(new DecompressionStream('gzip')))) {
      put(handle, piece, size)
      size += piece.length
    }
    handle.flush()
  } finally {
    handle.close()
    await Promise.all([partNote, partFile].map(remove)) // it is whole now, or of no use
  }
  if (size !== was?.unpacked) throw new Error('What came is not whole: try again to fetch it anew.')
}

class NoRoom extends Error {}

function put(handle: Handle, piece: Uint8Array, at: number) {
  if (handle.write(piece, { at }) < piece.length) throw new NoRoom('There is no room left on this device.')
}

/** What comes out of a stream; not every browser can go through one by itself. */
async function* pieces(stream: ReadableStream<Uint8Array>) {
  for (const reader = stream.getReader(); ;) {
    const { value, done } = await reader.read()
    if (done) return
    yield value
  }
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
