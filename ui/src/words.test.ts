import { describe, expect, it } from 'vitest'
import type { Character } from './api/client'
import { percent, scoreWords, seconds } from './words'

const mm = { unit: 'mm' } as Character

describe('what a score says', () => {
  it.each([
    [{ character: 'x', states: ['long-ridges', 'mesh-ridges'] }, 'long ridges or mesh ridges'],
    [{ character: 'x', states: ['smooth'], zone: 'upper' }, 'smooth (upper)'],
    [{ character: 'x', states: ['smooth'], zone: 'breast' }, 'smooth'],
    [{ character: 'x', seen: false }, 'looked, not seen'],
    [{ character: 'x', pairs: 4, nodes: 6 }, '4 pairs in 6 nodes'],
    [{ character: 'x', value: 6.5, readings: 3 }, '6.5 mm, mean of 3'],
    [{ character: 'x', value: 0.25, unit: 'in' }, '0.25 in'],
  ])('%j', (score, words) => expect(scoreWords(score, mm)).toBe(words))
})

describe('a chance', () => {
  it.each([[0, '0 %'], [0.004, '<1 %'], [0.5, '50 %'], [0.987, '99 %'], [0.9973, '>99 %'], [1, '100 %']])(
    '%d is read as %s', (p, words) => expect(percent(p)).toBe(words),
  )
})

it('says seconds and minutes', () => {
  expect(seconds(15)).toBe('15 s')
  expect(seconds(120)).toBe('2 min')
})
