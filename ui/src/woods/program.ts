import type { ProgramFile } from './messages'

const programs = 'palethicket-program'

/** The program as home has it now. */
export async function programAtHome(): Promise<ProgramFile> {
  const res = await fetch('/field.json', { cache: 'no-store' })
  if (!res.ok) throw new Error('Home has no program for devices.')
  return (await res.json()) as ProgramFile
}

const address = (p: ProgramFile) => `/field.wasm?${p.digest}`

/** Fetches the program, unless it lies here already, and gives its address. */
export async function fetchProgram(progress: (done: number, all: number) => void): Promise<string> {
  if (!('storage' in navigator) || !navigator.storage.getDirectory || !('locks' in navigator))
    throw new Error(
      'This browser has no storage that a book could be kept in: renew it, or use another. What you enter is still kept until it is sent.',
    )
  const p = await programAtHome()
  const kept = await caches.open(programs)
  const at = address(p)
  if (await kept.match(at)) return at
  const [whole, start] = await Promise.all([fetch(at), fetch('/wasm_exec.js', { cache: 'no-store' })])
  if (!whole.ok || !whole.body || !start.ok) throw new Error('The program could not be fetched: ' + whole.statusText)
  let done = 0
  const counted = whole.body.pipeThrough(
    new TransformStream<Uint8Array, Uint8Array>({
      transform(piece, out) {
        done += piece.length
        progress(done, p.unpacked)
        out.enqueue(piece)
      },
    }),
  )
  await kept.put('/wasm_exec.js', start)
  await kept.put(at, new Response(counted, { headers: { 'Content-Type': 'application/wasm' } }))
  for (const old of await kept.keys()) {
    const { pathname, search } = new URL(old.url)
    if (pathname === '/field.wasm' && pathname + search !== at) await kept.delete(old)
  }
  return at
}
