import { describe, expect, it } from 'vitest'
import { scaleCount } from './bud'
import { type Shows, showsOf } from './shows'
import { box, place, twigParts } from './twig'

const shows = (o: Record<string, string | number | boolean>): Shows =>
  new Map(Object.entries(o).map(([k, v]) => [k, typeof v === 'string' ? { state: v } : typeof v === 'number' ? { value: v } : { seen: v }]))
const count = (s: Shows, of: string, character?: string) =>
  twigParts(s).filter((p) => p.of === of && (!character || p.character === character)).length

describe('a twig plate', () => {
  it.each([
    ['alternate', 3],
    ['opposite', 6],
    ['subopposite', 6],
    ['whorled', 9],
  ])('%s twigs have as many side buds as their nodes bear', (state, n) => {
    expect(count(shows({ 'twig.arrangement': state }), 'side-bud')).toBe(n)
  })
  it.each([
    ['true-end-bud', 1],
    ['side-bud-at-end', 1],
    ['pair-at-end', 2],
    ['cluster-at-end', 5],
  ])('%s ends in its buds', (state, n) => {
    expect(count(shows({ 'bud.tip': state }), 'end-bud')).toBe(n)
  })
  it.each([
    ['one', 1],
    ['two', 2],
    ['three', 3],
    ['five', 5],
    ['seven-or-so', 7],
    ['three-groups', 9],
    ['ring-of-many', 12],
  ])('%s bundle traces are counted', (state, n) => {
    expect(count(shows({ 'scar.bundles': state }), 'trace')).toBe(n)
  })
  it('draws each scale of the end bud', () => {
    const many = shows({ 'twig.arrangement': 'alternate', 'bud.scales': 'many-overlapping', 'bud.scale-count': 14 })
    expect(count(many, 'scale')).toBe(14 * 4) // the end bud and three side buds
    expect(scaleCount('two-edge-to-edge', undefined)).toBe(2)
    expect(scaleCount('few-overlapping', 3.4)).toBe(3)
    expect(scaleCount('naked', 5)).toBe(0)
  })
  it('is to scale: a bud is as long as it measures', () => {
    const length = (mm: number) => {
      const d = twigParts(shows({ 'bud.length': mm, 'bud.shape': 'spindle' })).find((p) => p.of === 'end-bud')?.d ?? ''
      const ys = [...d.matchAll(/-?\d+\.\d+ (-?\d+\.\d+)/g)].map((m) => Number(m[1]))
      return Math.max(...ys) - Math.min(...ys)
    }
    expect(length(20)).toBeCloseTo(20, 1)
    expect(length(5)).toBeCloseTo(5, 1)
  })
  it('draws opposite buds at one height on either side', () => {
    const starts = twigParts(shows({ 'twig.arrangement': 'opposite' }))
      .filter((p) => p.of === 'scar' && p.character === 'twig.arrangement')
      .map(
        (p) =>
          p.d
            .match(/M(-?[\d.]+) ([\d.]+)/)
            ?.slice(1)
            .map(Number) ?? [],
      )
    for (let i = 0; i < starts.length; i += 2) {
      expect(starts[i][1]).toBe(starts[i + 1][1])
      expect(Math.sign(starts[i][0])).toBe(-Math.sign(starts[i + 1][0]))
    }
  })
  it('draws what is not known faint, and no mark that was not seen', () => {
    expect(
      twigParts(new Map())
        .filter((p) => p.of === 'end-bud')
        .every((p) => p.faint),
    ).toBe(true)
    expect(twigParts(new Map()).filter((p) => ['scale', 'hair', 'arm', 'pith', 'trace'].includes(p.of))).toEqual([])
    expect(count(shows({ 'twig.spurs': false }), 'mark', 'twig.spurs')).toBe(0)
    expect(count(shows({ 'twig.spurs': true }), 'mark', 'twig.spurs')).toBe(1)
  })
  it.each([
    ['single', 1],
    ['twos', 2],
    ['threes', 3],
    ['fives', 5],
  ])('%s needles stand together', (bundle, n) => {
    const needles = twigParts(shows({ 'needle.kept': 'needles', 'needle.bundle': bundle, 'needle.length': 40 })).filter(
      (p) => p.of === 'needle',
    )
    const roots = new Map<string, number>()
    for (const p of needles) roots.set(p.d.split('l')[0], (roots.get(p.d.split('l')[0]) ?? 0) + 1)
    expect([...new Set(roots.values())]).toEqual([n])
    expect(count(shows({ 'needle.kept': 'needles' }), 'side-bud')).toBe(0)
  })
  it('keeps within its box', () => {
    for (const p of twigParts(
      shows({ 'bud.length': 24, 'twig.diameter': 8, 'twig.zigzag': true, 'twig.arrangement': 'opposite', 'bud.stance': 'spreading' }),
    )) {
      for (const [, x, y] of p.d.matchAll(/[MLC](-?[\d.]+) (-?[\d.]+)/g)) {
        expect(Number(x)).toBeGreaterThan(box.left)
        expect(Number(y)).toBeLessThan(box.top + box.height)
      }
    }
  })
  it('moves a drawing without changing its form', () => {
    expect(place('M0 0H48V48a4 4 0 0 1 8 0Z', 10, 20, 0.5)).toBe('M10.00 20.00H34.00V44.00a2.00 2.00 0 0 1 4.00 0.00Z')
  })
})

it('what is drawn is what the book says, by character', () => {
  const got = showsOf([
    { character: 'bud.length', value: 12.7 },
    { character: 'twig.arrangement', state: 'opposite' },
  ])
  expect(got.get('bud.length')?.value).toBe(12.7)
  expect(got.get('twig.arrangement')?.state).toBe('opposite')
  expect(got.has('bud.shape')).toBe(false)
})
