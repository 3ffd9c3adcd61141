import { expect, it } from 'vitest'
import { capital, dayWords, figure, percent, seconds } from './words'

it('a chance is read aloud, and nothing is certain', () => {
  expect([0.987, 0.995, 1, 0.004, 0, 0.5].map(percent)).toEqual(['98 %', '>99 %', '100 %', '<1 %', '0 %', '50 %'])
})

it('seconds become minutes when there are many', () => {
  expect([15, 59.6, 60, 150].map(seconds)).toEqual(['15 s', '60 s', '1 min', '3 min'])
})

it('figures have few digits, and days a month', () => {
  expect(figure(3.14159, 2)).toBe('3.14')
  expect(capital('red oak')).toBe('Red oak')
  expect(dayWords('2026-11-28')).toContain('2026')
})
