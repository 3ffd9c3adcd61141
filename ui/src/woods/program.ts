import type { ProgramFile } from './messages'

const programs = 'palethicket-program'

const elsewhere = 'Home cannot be reached: something else answers in its place. Try again with another connection.'

/** The program as home has it now. */
export async function programAtHome(): Promise<ProgramFile> {
  const res = await fetch('/field.json', { cache: 'no-store' })
  if (!res.ok) throw new Error('Home has no program for devices.')
  const p = (await res.json().catch(() => null)) as ProgramFile | null
  if (!p?.sha256) throw new Error(elsewhere)
  return p
}

/** A file as it came, if it is the one of the digest: whatever answers in home's place is never kept as the program. */
async function whole(res: Response, sha256: string): Promise<ArrayBuffer> {
  const file = await res.arrayBuffer()
  const digest = [...new Uint8Array(await crypto.subtle.digest('SHA-256', file))].map((b) => b.toString(16).padStart(2, '0')).join('')
  if (digest !== sha256) throw new Error(elsewhere)
  return file
}

const address = (p: ProgramFile) => `/field.wasm?${p.digest}`

/** Fetches the program, unless it lies here already, and gives its address. */
export async function fetchProgram(progress: (done: number, all: number) => void, signal?: AbortSignal): Promise<string> {
  if (!('storage' in navigator) || !navigator.storage.getDirectory || !('locks' in navigator))
    throw new Error(
      'This browser has no storage that a book could be kept in: renew it, or use another. What you enter is still kept until it is sent.',
    )
  const p = await programAtHome()
  const kept = await caches.open(programs)
  const at = address(p)
  if (await kept.match(at)) return at
  const [program, start] = await Promise.all([fetch(at, { signal }), fetch('/wasm_exec.js', { cache: 'no-store', signal })])
  if (!program.ok || !program.body || !start.ok) throw new Error('The program could not be fetched: ' + program.statusText)
  let done = 0
  const counted = program.body.pipeThrough(
    new TransformStream<Uint8Array, Uint8Array>({
      transform(piece, out) {
        done += piece.length
        progress(done, p.unpacked)
        out.enqueue(piece)
      },
    }),
  )
  const [file, starter] = await Promise.all([whole(new Response(counted), p.sha256), whole(start, p.start)])
  await kept.put('/wasm_exec.js', new Response(starter, { headers: { 'Content-Type': 'text/javascript' } }))
  await kept.put(at, new Response(file, { headers: { 'Content-Type': 'application/wasm' } }))
  for (const old of await kept.keys()) {
    const { pathname, search } = new URL(old.url)
    if (pathname === '/field.wasm' && pathname + search !== at) await kept.delete(old)
  }
  return at
}
