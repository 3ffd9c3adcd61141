import createClient from 'openapi-fetch'
import type { components, paths } from './schema.gen'

export type Schemas = components['schemas']
export type Desk = Schemas['Desk']
export type Character = Schemas['Character']
export type Entry = Schemas['Entry']
export type Score = Schemas['Score']
export type ScoreView = Schemas['ScoreView']
export type LookView = Schemas['LookView']
export type TreeView = Schemas['TreeView']
export type TreeLine = Schemas['Line']
export type Unsettled = Schemas['Unsettled']
export type Place = Schemas['Place']
export type StandGround = Schemas['StandGround']
export type Dot = Schemas['Dot']
export type Composition = Schemas['Composition']
export type Story = Schemas['Story']
export type Step = Schemas['Step']
export type Visit = Schemas['Visit']
export type Preview = Schemas['Preview']
export type Mapping = Schemas['Mapping']
export type Import = Schemas['Import']
export type Formats = Schemas['Formats']
export type Account = Schemas['Account']
export type Session = Schemas['Session']
export type Result = Schemas['Result']
export type Next = Schemas['Next']

export type TaxonLine = Schemas['TaxonLine']
export type TaxonPage = Schemas['TaxonPage']
export type CharacterPage = Schemas['CharacterPage']
export type Found = Schemas['Found']
export type List = Schemas['List']

export const api = createClient<paths>({ baseUrl: '/' })

/** What the server said was wrong, in one line for each field. */
export function problemLines(error: Schemas['ErrorModel'] | undefined): string[] {
  if (!error) return ['The server did not say what was wrong.']
  const lines = (error.errors ?? []).map((e) => e.message ?? '').filter(Boolean)
  return lines.length > 0 ? lines : [error.detail ?? error.title ?? 'The server refused it.']
}
