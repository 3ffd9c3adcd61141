import { vi } from 'vitest'

export interface Asked {
  method: string
  path: string
  body: unknown
}

/**
 * A server in memory: answers by method and path, and what was asked of it. The
 * client keeps the fetch it found when it was made, so stub before importing it.
 */
export function server() {
  const asked: Asked[] = []
  const answers = new Map<string, unknown>()
  let down = false
  async function answer(input: Request | string, init?: RequestInit): Promise<Response> {
    const request = typeof input === 'string' ? new Request(new URL(input, 'http://book'), init) : input
    const { pathname, search } = new URL(request.url)
    const text = request.method === 'GET' ? '' : await request.text()
    asked.push({ method: request.method, path: pathname + search, body: parsed(text) })
    if (down) throw new TypeError('no connection')
    const found = answers.get(`${request.method} ${pathname}`)
    if (found === undefined) return new Response(null, { status: 204 })
    const body = typeof found === 'function' ? (found as (search: string) => unknown)(search) : found
    const wrong = body as { errors?: unknown; detail?: string; status?: number } | null
    return Response.json(body, { status: wrong?.errors || wrong?.detail ? (wrong.status ?? 422) : 200 })
  }
  vi.stubGlobal('fetch', answer)
  vi.stubGlobal('XMLHttpRequest', upload(answer))
  return {
    asked,
    on: (what: string, body: unknown) => answers.set(what, body),
    connect: (up: boolean) => (down = !up),
    last: (method: string) => asked.filter((a) => a.method === method).at(-1),
    forget() {
      asked.length = 0
      answers.clear()
      down = false
    },
  }
}

/** The part of XMLHttpRequest that sends a file, asked of the same server. */
function upload(answer: (url: string, init: RequestInit) => Promise<Response>) {
  return class {
    upload = {}
    status = 0
    responseText = ''
    onload = () => {}
    onerror = () => {}
    private method = ''
    private url = ''
    open(method: string, url: string) {
      this.method = method
      this.url = url
    }
    setRequestHeader() {}
    getResponseHeader = () => 'application/json'
    send(file: File) {
      answer(this.url, { method: this.method, body: file }).then(
        async (response) => {
          this.status = response.status
          this.responseText = await response.text()
          this.onload()
        },
        () => this.onerror(),
      )
    }
  }
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return text
  }
}
