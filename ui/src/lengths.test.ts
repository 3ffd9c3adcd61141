import { describe, expect, it } from 'vitest'
import { mean, readLength, spread } from './lengths'

describe('a measurement as it is written', () => {
  it.each([
    ['6.5', [6.5], undefined], ['6,5', [6.5], undefined], ['1/4 in', [0.25], 'in'], ['1/4"', [0.25], 'in'], ['3 1/2', [3.5], undefined],
    ['3-1/2 inches', [3.5], 'in'], ['5; 6; 5.5', [5, 6, 5.5], undefined], ['5, 6, 5.5 mm', [5, 6, 5.5], 'mm'], ['12 cm', [12], 'cm'], ["6'", [6], 'ft'],
    ['a pencil', [7], 'mm'], ['half a pencil', [3.5], 'mm'], ['Twice a pencil', [14], 'mm'],
  ])('%s', (text, values, unit) => {
    expect(readLength(text)?.values).toEqual(values)
    expect(readLength(text)?.unit).toBe(unit)
  })
  it.each(['', 'thin', '0', '-3', '1/0', '5 furlongs', '5 mm; 6 in', '1.2.3'])('is not: %s', (text) => {
    expect(readLength(text)).toBeNull()
  })
  it('has a mean and a spread', () => {
    expect(mean([5, 6, 5.5])).toBe(5.5)
    expect(spread([5, 6, 5.5])).toBeCloseTo(0.5)
    expect(spread([5])).toBe(0)
  })
})
