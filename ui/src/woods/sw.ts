/** Keeps the pages, fonts and drawings on the device, so that they open without a signal. */
import { cleanupOutdatedCaches, createHandlerBoundToURL, precacheAndRoute } from 'workbox-precaching'
import { NavigationRoute, registerRoute } from 'workbox-routing'
import { claim, leaving, type Answer } from './messages'

interface Client {
  postMessage(message: unknown, transfer: Transferable[]): void
}

interface Scope {
  __WB_MANIFEST: { url: string; revision: string | null }[]
  skipWaiting(): Promise<void>
  clients: { claim(): Promise<void>; matchAll(options: { type: 'window' }): Promise<Client[]> }
  addEventListener(type: 'message', heard: (e: MessageEvent<{ type?: string } | null>) => void): void
  addEventListener(type: 'activate', heard: (e: { waitUntil(until: Promise<unknown>): void }) => void): void
}
declare const self: Scope

precacheAndRoute(self.__WB_MANIFEST)
cleanupOutdatedCaches()

self.addEventListener('activate', (e) => e.waitUntil(self.clients.claim())) // the first visit already counts
self.addEventListener('message', (e) => {
  if (e.data?.type === 'SKIP_WAITING') void self.skipWaiting()
  if (e.data?.type === leaving) replaced.abort()
  if (e.data?.type === claim) void self.clients.claim()
})

/** A newer worker takes over only after this one has answered every request. Told that one waits, it ends those still open. */
const replaced = new AbortController()
const ended = new Promise<null>((resolve) => replaced.signal.addEventListener('abort', () => resolve(null)))
const fromServer = (request: Request) => fetch(request, { signal: replaced.signal }).catch(() => Response.error())

// The interface routes itself: every page is the first one.
registerRoute(new NavigationRoute(createHandlerBoundToURL('/index.html'), { denylist: [/^\/api\//, /^\/openapi/] }))

// The program is fetched when somebody takes a tract along, and then lies on the device.
registerRoute(
  ({ url }) => url.pathname === '/wasm_exec.js' || url.pathname === '/field.wasm',
  async ({ request }) => (await (await caches.open('palethicket-program')).match(request)) ?? fromServer(request),
)

// Drawings that a device made itself are kept, by the digest of all that they are made from; at home the browser's
// own cache does it.
const plates = 'palethicket-plates'
registerRoute(
  ({ url }) => url.pathname.startsWith('/api/plates/'),
  async ({ url, request }) => {
    const had = await caches.match(request, { cacheName: plates })
    if (had) return had
    const made = await askPage(request.url)
    if (!made) return fromServer(request)
    if (made.ok) await keepDrawing(url, request, made.clone())
    return made
  },
)

async function keepDrawing(url: URL, request: Request, made: Response) {
  const kept = await caches.open(plates)
  const digest = url.pathname.split('/').slice(0, 4).join('/')
  const first = (await kept.keys())[0]
  if (first && !new URL(first.url).pathname.startsWith(digest + '/')) for (const old of await kept.keys()) await kept.delete(old)
  await kept.put(request, made).catch(() => undefined) // no room: it is drawn again
}

// Photographs and files that a page shows by their address: a page with a book of its own answers.
registerRoute(
  ({ url, request }) => url.pathname.startsWith('/api/') && (request.destination === 'image' || request.mode === 'navigate'),
  async ({ request }) => (await askPage(request.url)) ?? fromServer(request),
)

const patience = 15_000

async function askPage(url: string): Promise<Response | null> {
  for (const page of await self.clients.matchAll({ type: 'window' })) {
    const { port1, port2 } = new MessageChannel()
    const answered = new Promise<Answer | null>((resolve) => {
      port1.onmessage = (e: MessageEvent<Answer | null>) => resolve(e.data)
      setTimeout(() => resolve(null), patience)
      page.postMessage({ ask: url }, [port2])
    })
    const answer = await Promise.race([answered, ended])
    port1.close()
    if (answer) return new Response(answer.body as Uint8Array<ArrayBuffer>, { status: answer.status, headers: answer.headers })
  }
  return null
}
