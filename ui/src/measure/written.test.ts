import { describe, expect, it } from 'vitest'
import { bare, unitOf, written } from './written'

describe('what is typed for a sum', () => {
  it('gets the unit that was used last where figures alone are typed', () => {
    expect(written('length', '20', 'm')).toBe('20 m')
    expect(written('length', '5 ft 6 in', 'm')).toBe('5 ft 6 in')
    expect(written('slope', '-8', '%')).toBe('-8 %')
    expect(written('lengths', '24; 31 in', 'cm')).toEqual(['24 cm', '31 in'])
    expect(written('percents', '25', '')).toBe('25 %')
  })

  it('is a number, a list or a place as the sum takes it, and else goes as it is, to be refused', () => {
    expect(written('number', '2,15', '')).toBe(2.15)
    expect(written('counts', '10; 12 ;14', '')).toEqual([10, 12, 14])
    expect(written('count', 'twelve', '')).toBe('twelve')
    expect(written('place', '43.57, -90.63', '')).toEqual([-90.63, 43.57])
    expect(written('places', '43.57, -90.63; here', '')).toEqual([[-90.63, 43.57], 'here'])
  })

  it('tells units', () => {
    expect(unitOf('66 ft')).toBe('ft')
    expect(unitOf('35°')).toBe('°')
    expect(unitOf('20')).toBe('')
    expect(bare('2 3/8')).toBe(true)
    expect(bare('2 m')).toBe(false)
  })
})
