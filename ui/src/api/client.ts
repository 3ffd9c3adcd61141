import createClient from 'openapi-fetch'
import { askDevice, isAway } from '../woods/device'
import type { components, paths } from './schema.gen'

export type Schemas = components['schemas']
export type Character = Schemas['Character']
export type Entry = Schemas['Entry']
export type Score = Schemas['Score']
export type ScoreView = Schemas['ScoreView']
export type LookView = Schemas['LookView']
export type TreeView = Schemas['TreeView']
export type TreeLine = Schemas['TreeLine']
export type Unsettled = Schemas['Unsettled']
export type Stand = Schemas['Stand']
export type Dot = Schemas['Dot']
export type Composition = Schemas['Composition']
export type Story = Schemas['Story']
export type Step = Schemas['Step']
export type Visit = Schemas['Visit']
export type Preview = Schemas['Preview']
export type Mapping = Schemas['Mapping']
export type Import = Schemas['Import']
export type Formats = Schemas['Formats']
export type Member = Schemas['Member']
export type Session = Schemas['Session']
export type Next = Schemas['Next']
export type TaxonLine = Schemas['TaxonLine']
export type TaxonPage = Schemas['TaxonPage']
export type CharacterPage = Schemas['CharacterPage']
export type Found = Schemas['Found']
export type List = Schemas['List']

/** Away from home the device's own book answers. */
const ask = (request: Request) => (isAway() ? askDevice(request) : fetch(request))

export const api = createClient<paths>({ baseUrl: '/', fetch: ask })

/** Home itself, whatever book the device works on. */
export const home = createClient<paths>({ baseUrl: '/' })

/** What the book said was wrong, in one line for each field. */
export function problemLines(error: Schemas['ErrorModel'] | undefined): string[] {
  if (!error) return ['The book did not say what was wrong.']
  const lines = (error.errors ?? []).map((e) => e.message ?? '').filter(Boolean)
  return (lines.length > 0 ? lines : [error.detail ?? error.title ?? 'The book refused it.']).map(
    (l) => l.charAt(0).toUpperCase() + l.slice(1),
  )
}

/** Sends a file through the client as it is, and says how far it is, from 0 to 1. */
export function sending(file: File, progress: (part: number) => void) {
  return {
    body: file as never, // the description of a file is text, and a File is sent as it is
    bodySerializer: (body: unknown) => body as File,
    headers: { 'Content-Type': 'application/octet-stream' },
    fetch: (request: Request) => (isAway() ? askDevice(request) : send(request, file, progress)),
  }
}

/** A fetch that says how much was sent, which fetch itself cannot. */
function send(request: Request, file: File, progress: (part: number) => void): Promise<Response> {
  return new Promise((resolve, reject) => {
    const sent = new XMLHttpRequest()
    sent.open(request.method, request.url)
    request.headers.forEach((value, name) => sent.setRequestHeader(name, value))
    sent.upload.onprogress = (e) => e.lengthComputable && progress(e.loaded / e.total)
    sent.onload = () =>
      resolve(
        new Response(sent.responseText || null, {
          status: sent.status,
          headers: { 'Content-Type': sent.getResponseHeader('Content-Type') ?? '' },
        }),
      )
    sent.onerror = () => reject(new TypeError('no connection'))
    sent.send(file)
  })
}
