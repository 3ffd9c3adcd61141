import { useLocalStorage } from '@vueuse/core'
import { computed, reactive, ref } from 'vue'
import { ulid } from 'ulid'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { useSession } from '../frame/session'
import type { Among } from '../frame/vocabulary'
import { percent } from '../frame/words'
import { nextTag } from './tag'

export const rooms = [1, 4, 10] as const
export interface SheetAsked {
  among: Among
  route: string
  trees: (typeof rooms)[number]
}

/** The sheet that was last printed or keyed in here. */
export const useSheetAsked = () =>
  useLocalStorage<SheetAsked>('palethicket.sheet', { among: { region: '' }, route: 'twig-in-hand', trees: 4 }, { deep: true })

/** Of whom a sheet is asked for, as the addresses of files have it. */
export const sheetQuery = (a: SheetAsked) => ({
  ...(a.among.region && { region: a.among.region }),
  ...(a.among.list && { list: a.among.list }),
  route: a.route,
  trees: a.trees,
})

export type Row = Schemas['Row']

/** What is being keyed in: kept by the browser until the book has it. */
interface Draft {
  id: string
  tag: string
  note: string
  age: '' | 'young' | 'mature' | 'old'
  pairs: number | ''
  singles: number | ''
  written: Record<string, string>
}
const blank = (tag = ''): Draft => ({ id: ulid(), tag, note: '', age: '', pairs: '', singles: '', written: {} })

/** A tally sheet that is keyed in tree by tree. */
export function useSheet() {
  const session = useSession()
  const asked = useSheetAsked()
  const sheet = ref<Schemas['Sheet'] | null>(null)
  const tract = useLocalStorage('palethicket.tract', '') // as where a tree was started last
  const stand = useLocalStorage('palethicket.stand', '')
  const where = reactive({ tract, stand, day: '', writer: '' })
  const draft = useLocalStorage<Draft>('palethicket.sheet.draft', blank(), { deep: true, mergeDefaults: true })
  const kept = ref<{ sheet: string; id: string; tag: string; words: string }[]>([])
  const reading = useAsk()
  const knowing = useAsk()
  const sending = useAsk({ typed: true })
  const undoing = useAsk()

  async function read() {
    sheet.value = null
    const { data } = await reading.ask(api.GET('/api/tally', { params: { query: sheetQuery(asked.value) } }))
    if (data) sheet.value = data
  }

  const rows = computed<Row[]>(() => sheet.value?.rows ?? [])
  const filled = computed(() => rows.value.filter((r) => draft.value.written[r.character]?.trim()).length)

  /** The tree of the tract that has the tag already: what is keyed in is added to it. */
  const has = ref('')
  async function look() {
    has.value = ''
    const tag = draft.value.tag.trim()
    if (!tag || !where.tract) return
    const { data } = await knowing.ask(
      api.GET('/api/code', { params: { query: { code: `?${new URLSearchParams({ tag, tract: where.tract })}` } } }),
    )
    if (tag === draft.value.tag.trim() && data?.trees?.length) has.value = `${data.trees[0]!.tag}, ${data.trees[0]!.stand}`
  }

  /** Sends the tree on the page: all of it is kept, or none and it is said why. Sent twice, it is kept once. */
  async function send(meant: { new?: true; again?: true } = {}): Promise<boolean> {
    if (!sheet.value || sending.busy.value) return false
    const { id, tag, note, age, pairs, singles, written } = draft.value
    const answers = rows.value.map((r) => ({ character: r.character, written: written[r.character] ?? '' })).filter((a) => a.written.trim())
    const { region, ...more } = { ...asked.value.among }
    const { day, writer } = where
    const body = {
      ...{ id, tag: tag.trim(), tract: where.tract.trim(), stand: where.stand.trim(), region: region || undefined, ...more },
      ...{ by: session.name || undefined, route: asked.value.route, room: asked.value.trees, code: sheet.value.code },
      ...{ day: day || undefined, writer: writer.trim() || undefined, note: note.trim() || undefined, age: age || undefined },
      ...{ pairs: pairs === '' ? undefined : pairs, singles: singles === '' ? undefined : singles, answers, ...meant },
    }
    const { data } = await sending.ask(api.POST('/api/tally', { body }))
    if (!data) return false
    kept.value.unshift({ sheet: id, id: data.tree.id, tag: data.tree.tag, words: leads(data) })
    has.value = ''
    draft.value = blank(nextTag(tag.trim()))
    return true
  }

  /** Undoes all that was keyed in of one sheet. */
  async function undo(k: { sheet: string; id: string }) {
    const query = { tree: k.id, by: session.name || undefined }
    const { data } = await undoing.ask(api.DELETE('/api/tally/{id}', { params: { path: { id: k.sheet }, query } }))
    if (data) kept.value = kept.value.filter((other) => other.sheet !== k.sheet)
  }

  return { asked, sheet, rows, where, draft, kept, filled, reading, sending, undoing, has, look, read, send, undo }
}

/** How the tree stands, in a few words. */
function leads(view: Schemas['TreeView']): string {
  const first = view.result?.ranking?.[0]
  return first ? `${first.english || first.taxon} leads with ${percent(first.posterior)}` : ''
}

/** How many letters an answer of a row has: one, or two where there are more than 26 answers. */
const wide = (row: Row) => row.boxes?.[0]?.letter.length ?? 1

/** What a key does in a row: letters answer and go on; + has the next stand beside, for one or the other. */
export function struck(row: Row, written: string, key: string): { written: string; go: 'on' | 'stay' } | { wrong: string } | null {
  if (key === ' ') return { written, go: 'on' }
  if (key === '?') return { written: '?', go: 'on' }
  if (row.kind === 'numeric' || key.length > 1) return null // a figure is typed as anywhere
  if (key === '+') return { written: written + '+', go: 'stay' }
  const beside = written.lastIndexOf('+') + 1
  const begun = written.length > beside && written.length - beside < wide(row) ? written.slice(beside) : ''
  const letters = begun + key.toLowerCase()
  const before = begun || written.endsWith('+') ? written.slice(0, beside) : ''
  if (row.boxes?.some((b) => b.letter === letters)) return { written: before + letters, go: 'on' }
  if (row.boxes?.some((b) => b.letter.startsWith(letters))) return { written: before + letters, go: 'stay' }
  return { wrong: `There is no ${letters} here: ${row.boxes?.map((b) => `${b.letter} ${b.words}`).join(', ')}.` }
}

/** What the letters stand for. */
export const means = (row: Row, written: string) =>
  written
    .toLowerCase()
    .split('+')
    .flatMap((letters) => letters.match(new RegExp(`.{1,${wide(row)}}`, 'g')) ?? [])
    .map((letters) => row.boxes?.find((b) => b.letter === letters)?.words)
    .filter(Boolean)
    .join(' or ')
