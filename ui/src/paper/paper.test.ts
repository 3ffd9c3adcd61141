import { describe, expect, it } from 'vitest'
import { means, struck, type Row } from './sheet'
import { tagsFrom } from './tags'

const pith = {
  character: 'twig.pith',
  name: 'pith',
  kind: 'categorical',
  boxes: [
    { letter: 'a', state: 'solid', words: 'solid' },
    { letter: 'b', state: 'hollow', words: 'hollow' },
  ],
} as unknown as Row
const length = { character: 'bud.length', name: 'bud length', kind: 'numeric', boxes: [] } as unknown as Row

describe('a row of a tally sheet', () => {
  it('takes a letter and goes on', () => expect(struck(pith, '', 'B')).toEqual({ written: 'b', go: 'on' }))
  it('takes another letter instead', () => expect(struck(pith, 'a', 'b')).toEqual({ written: 'b', go: 'on' }))
  it('takes one or the other after a plus', () => {
    expect(struck(pith, 'a', '+')).toEqual({ written: 'a+', go: 'stay' })
    expect(struck(pith, 'a+', 'b')).toEqual({ written: 'a+b', go: 'on' })
  })
  it('says which letters there are', () => expect(struck(pith, 'a', 'q')).toEqual({ wrong: 'There is no q here: a solid, b hollow.' }))
  it('leaves a row as it is, or says that it could not be told', () => {
    expect(struck(pith, 'a', ' ')).toEqual({ written: 'a', go: 'on' })
    expect(struck(pith, '', '?')).toEqual({ written: '?', go: 'on' })
  })
  it('leaves figures and other keys to the field', () => {
    expect(struck(length, '', '5')).toBeNull()
    expect(struck(pith, '', 'Tab')).toBeNull()
  })
  it('says what letters mean', () => {
    expect(means(pith, 'ab')).toBe('solid or hollow')
    expect(means(pith, 'a+b')).toBe('solid or hollow')
    expect(means(pith, '?')).toBe('')
  })
})

describe('a row of more answers than letters', () => {
  const box = (letter: string, words: string) => ({ letter, state: words, words })
  const fruit = {
    name: 'fruit',
    kind: 'categorical',
    boxes: [box('aa', 'keys'), box('ab', 'cones'), box('ba', 'acorns')],
  } as unknown as Row
  it('takes two letters, and stays between them', () => {
    expect(struck(fruit, '', 'a')).toEqual({ written: 'a', go: 'stay' })
    expect(struck(fruit, 'a', 'B')).toEqual({ written: 'ab', go: 'on' })
    expect(struck(fruit, 'ab', 'b')).toEqual({ written: 'b', go: 'stay' })
    expect(struck(fruit, 'ab+', 'b')).toEqual({ written: 'ab+b', go: 'stay' })
    expect(struck(fruit, 'ab+b', 'a')).toEqual({ written: 'ab+ba', go: 'on' })
    expect(struck(fruit, 'b', 'b')).toMatchObject({ wrong: expect.stringContaining('no bb here') })
  })
  it('says what they mean', () => expect(means(fruit, 'ab+ba')).toBe('cones or acorns'))
})

describe('tags to be given out', () => {
  it('are counted up', () => expect(tagsFrom(' LC-098 ', 3)).toEqual(['LC-098', 'LC-099', 'LC-100']))
  it('are none without a figure, and never more than five hundred', () => {
    expect(tagsFrom('oak', 3)).toEqual([])
    expect(tagsFrom('A1', 9999)).toHaveLength(500)
    expect(tagsFrom('A1', Number.NaN)).toEqual([])
  })
})
