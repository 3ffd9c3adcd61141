import { expect, it } from 'vitest'
import { usePages } from './pages'

const book = (total: number) => async (limit: number, offset: number) => ({
  data: { trees: Array.from({ length: Math.min(limit, total - offset) }, (_, i) => offset + i), total },
  response: new Response(),
})

it('a list is read again as far as it was shown', async () => {
  const asked: number[][] = []
  const pages = usePages<number>((limit, offset) => {
    asked.push([limit, offset])
    return book(400)(limit, offset)
  })
  await pages.load()
  await pages.more()
  expect(pages.list.value).toHaveLength(120)
  await pages.again()
  expect(pages.list.value).toHaveLength(120)
  expect(asked.at(-1)).toEqual([120, 0])
})

it('a list is whole before it is printed', async () => {
  const pages = usePages<number>(book(1234))
  await pages.load()
  await pages.all()
  expect(pages.list.value).toEqual(Array.from({ length: 1234 }, (_, i) => i))
})
