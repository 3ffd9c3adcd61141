import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { swatch } from './colors'
import { drawn, stroke } from './strokes'

/** The characters as the flora's own file lists them. */
const characters = readFileSync('../flora/characters.yaml', 'utf8')
  .split('  - id: ')
  .slice(1)
  .map((block) => ({
    id: block.split('\n')[0],
    kind: /kind: (\w+)/.exec(block)?.[1] ?? '',
    states: (/states: (?:&\w+ )?\[(.*)\]/.exec(block)?.[1] ?? '').split(', ').filter(Boolean),
  }))
const states = (id: string) => characters.find((c) => c.id === (id === 'ground.fruit' ? 'fruit.kind' : id))?.states ?? []

describe('every state of every character', () => {
  it.each(characters.filter((c) => c.kind === 'categorical' || c.kind === 'tally').map((c) => c.id))(
    '%s is drawn, each its own way',
    (id) => {
      const looks = states(id).map((s) => stroke(id, s) ?? swatch(id, s).join())
      expect(looks.length).toBeGreaterThan(1)
      expect(looks).not.toContain('')
      expect(new Set(looks).size).toBe(looks.length)
    },
  )
  it('draws every sign, each its own way', () => {
    const signs = characters.filter((c) => c.kind === 'sign').map((c) => stroke(c.id, 'seen'))
    expect(signs.length).toBeGreaterThan(25)
    expect(signs).not.toContain(undefined)
    expect(new Set(signs).size).toBe(signs.length)
  })
  it('draws nothing that the flora does not have', () => {
    for (const [id, paths] of Object.entries(drawn)) {
      const c = characters.find((x) => x.id === id)
      expect(Object.keys(paths), id).toEqual(expect.arrayContaining(c?.kind === 'sign' ? ['seen'] : states(id)))
      expect(Object.keys(paths), id).toHaveLength(c?.kind === 'sign' ? 1 : states(id).length)
    }
  })
})

describe('what is drawn is what is meant', () => {
  const dots = (id: string, s: string) => (stroke(id, s)?.match(/a1\.[36] /g) ?? []).length / 2
  it.each([
    ['one', 1],
    ['two', 2],
    ['three', 3],
    ['five', 5],
    ['seven-or-so', 7],
    ['three-groups', 9],
  ])('%s shows its bundle traces', (s, n) => expect(dots('scar.bundles', s)).toBe(n))
  it('opposite twigs leave the stem at one height, alternate ones do not', () => {
    const heights = (s: string) => [...(stroke('twig.arrangement', s) ?? '').matchAll(/M24 (\d+)Q/g)].map((m) => m[1])
    expect(heights('opposite')).toEqual(['36', '36', '20', '20'])
    expect(new Set(heights('alternate')).size).toBe(4)
  })
})
