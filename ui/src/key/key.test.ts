import { beforeEach, expect, it } from 'vitest'
import { server } from '../testing/server'

const book = server()
const { all, settle, shown } = await import('../testing/page')
const KeyCouplet = (await import('./KeyCouplet.vue')).default
const { useKey } = await import('./key')

const oak = { words: 'Oaks', taxa: [] }
const clustered = { character: 'bud.tip', states: ['cluster-at-end'], words: 'Twig with buds crowded round the end bud', shows: '' }
const thorny = { character: 'bark.trunk-thorns', seen: true, words: 'thorns on the trunk' }
const long = { character: 'bud.length', from: 8, words: 'end bud mostly over 8 mm long' }
const couplets = [
  {
    n: 1,
    look: 'Look at the buds.',
    leads: [
      { words: 'Buds crowded; thorns', marks: [clustered, thorny, long], to: 2 },
      { words: 'Not', marks: [{ ...clustered, states: ['pair-at-end'], words: 'Twig ending in a pair' }], ends: {} },
    ],
  },
  {
    n: 2,
    look: 'Look at the trunk.',
    leads: [
      { words: 'Long', marks: [long], ends: oak },
      { words: 'Short', marks: [{ ...long }], ends: {} },
    ],
  },
]

async function walking(tree = { id: 't', tag: 'LC-612' }) {
  book.on('GET /api/key', { title: 'Key to North cove', couplets })
  book.on('POST /api/trees/t/entries', {})
  let key!: ReturnType<typeof useKey>
  await shown({ setup: () => ((key = useKey()), () => null) }, {})
  await key.make({ region: '', list: '', tract: 'Lantern Creek', stand: '', tree: 't', taste: 'whole', genus: '', age: '' })
  key.tree.value = tree
  return key
}
const entered = () => book.asked.filter((a) => a.method === 'POST').map((a) => a.body as Record<string, unknown>)
beforeEach(() => {
  book.forget()
  localStorage.clear()
})

it('asks only for what was chosen, and begins at its first couplet', async () => {
  const key = await walking()
  expect(book.last('GET')?.path).toBe('/api/key?tract=Lantern+Creek&tree=t&taste=whole'.replace('+', '%20'))
  expect(key.at.value?.n).toBe(1)
  expect(key.end.value).toBeNull()
})

it('goes on, ends, and goes back', async () => {
  const key = await walking()
  key.choose(1, couplets[0]!.leads[0] as never, [])
  expect(key.at.value?.n).toBe(2)
  key.choose(2, couplets[1]!.leads[0] as never, [])
  expect(key.at.value).toBeNull()
  expect(key.end.value).toEqual(oak)
  key.back()
  expect(key.at.value?.n).toBe(2)
})

it('scores each answer at once, in one look, without the measures, and takes back what is gone back from', async () => {
  const key = await walking()
  key.choose(1, couplets[0]!.leads[0] as never, [clustered, thorny, long] as never)
  key.choose(2, couplets[1]!.leads[0] as never, [long] as never)
  await settle()
  const [look, first, second, ...more] = entered()
  expect(look).toMatchObject({ kind: 'look', note: 'By the key: Key to North cove' })
  expect(first).toMatchObject({ look: look!.id, score: { character: 'bud.tip', states: ['cluster-at-end'] } })
  expect(second).toMatchObject({ look: look!.id, score: { character: 'bark.trunk-thorns', seen: true } })
  expect(more).toEqual([])
  expect(key.scored.value).toBe(2)
  key.back()
  key.back()
  await settle()
  expect(entered().slice(3)).toMatchObject([
    { kind: 'undo', entry: first!.id },
    { kind: 'undo', entry: second!.id },
  ])
})

it('scores nothing where the key is of no tree', async () => {
  const key = await walking(null as never)
  key.choose(1, couplets[0]!.leads[0] as never, [clustered] as never)
  await settle()
  expect(entered()).toEqual([])
})

it('follows a lead by its first mark, or by those that were marked as seen', async () => {
  const follows: unknown[] = []
  const page = await shown(KeyCouplet, { couplet: couplets[0], onFollow: (...args: unknown[]) => follows.push(args) })
  all(page, '[data-lead]')[0]!.click()
  expect(follows).toEqual([[couplets[0]!.leads[0], [clustered]]])
  all(page, '[data-mark]')[1]!.click()
  await settle()
  expect(all(page, '[data-mark]')[1]!.getAttribute('aria-pressed')).toBe('true')
  all(page, '[data-lead]')[1]!.click()
  expect(follows[1]).toEqual([couplets[0]!.leads[1], [thorny]])
})
