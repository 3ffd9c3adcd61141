import { beforeEach, expect, it } from 'vitest'
import { server } from '../testing/server'

const book = server()
const { shown } = await import('../testing/page')
const { useKey } = await import('./key')

const oak = { words: 'Oaks', taxa: [] }
const couplets = [
  {
    n: 1,
    look: 'Look at the buds.',
    leads: [
      { words: 'Clustered', character: 'bud.tip', states: ['cluster-at-end'], to: 2 },
      { words: 'Not', character: 'bud.tip', states: ['pair-at-end'], ends: {} },
    ],
  },
  {
    n: 2,
    look: 'Look at the trunk.',
    leads: [
      { words: 'Over 3 cm', character: 'form.dbh', ends: oak },
      { words: 'Thorns', character: 'bark.trunk-thorns', seen: true, ends: {} },
    ],
  },
]

async function walking() {
  book.on('GET /api/key', { title: 'Key to North cove', couplets })
  book.on('POST /api/trees/t/entries', {})
  let key!: ReturnType<typeof useKey>
  await shown({ setup: () => ((key = useKey()), () => null) }, {})
  await key.make({ region: '', list: '', tract: 'Lantern Creek', stand: '', tree: 't', taste: 'whole', genus: '' })
  return key
}
beforeEach(() => book.forget())

it('asks only for what was chosen, and begins at its first question', async () => {
  const key = await walking()
  expect(book.last('GET')?.path).toBe('/api/key?tract=Lantern+Creek&tree=t&taste=whole'.replace('+', '%20'))
  expect(key.at.value?.n).toBe(1)
  expect(key.end.value).toBeNull()
})

it('goes on, ends, and goes back', async () => {
  const key = await walking()
  key.choose(1, couplets[0]!.leads[0] as never)
  expect(key.at.value?.n).toBe(2)
  key.choose(2, couplets[1]!.leads[0] as never)
  expect(key.at.value).toBeNull()
  expect(key.end.value).toEqual(oak)
  key.back()
  expect(key.at.value?.n).toBe(2)
})

it('hands over as one look what was chosen, without the measures, which a key only knows between what they lie', async () => {
  const key = await walking()
  key.choose(1, couplets[0]!.leads[0] as never)
  key.choose(2, couplets[1]!.leads[0] as never)
  expect(await key.handOver('t')).toBe(true)
  const entries = book.asked.filter((a) => a.method === 'POST').map((a) => a.body as Record<string, unknown>)
  expect(entries).toHaveLength(2)
  expect(entries[0]).toMatchObject({ kind: 'look', note: 'By the key: Key to North cove' })
  expect(entries[1]).toMatchObject({ look: entries[0]!.id, score: { character: 'bud.tip', states: ['cluster-at-end'] } })
})

it('says so where the book refuses what is handed over', async () => {
  const key = await walking()
  book.on('POST /api/trees/t/entries', { detail: 'The tree is set aside.' })
  key.choose(1, couplets[0]!.leads[1] as never)
  expect(await key.handOver('t')).toBe(false)
  expect(key.handing.wrong.value.join()).toContain('set aside')
})
