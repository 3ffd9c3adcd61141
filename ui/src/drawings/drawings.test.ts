import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { swatch } from './colors'
import { drawn, stroke } from './strokes'

/** The states of a character, as the flora's own file lists them. */
function states(id: string): string[] {
  const text = readFileSync('../flora/characters.yaml', 'utf8')
  const at = text.slice(text.indexOf(`id: ${id}\n`))
  return (/states: \[(.*)\]/.exec(at)?.[1] ?? '').split(', ')
}

describe('every state of a drawn character', () => {
  it.each(Object.keys(drawn))('%s is drawn, each its own way', (id) => {
    const paths = states(id).map((s) => stroke(id, s))
    expect(paths).not.toContain(undefined)
    expect(new Set(paths).size).toBe(paths.length)
    expect(Object.keys(drawn[id])).toHaveLength(paths.length)
  })
})

describe('every colour', () => {
  it.each(['bark.color', 'bark.under-color', 'twig.color', 'twig.pith-color', 'bud.color'])('%s has a swatch of its own', (id) => {
    const all = states(id).map((s) => swatch(id, s).join())
    expect(all).not.toContain('')
    expect(new Set(all).size).toBe(all.length)
  })
})

describe('what is drawn is what is meant', () => {
  const dots = (id: string, s: string) => (stroke(id, s)?.match(/a1\.[36] /g) ?? []).length / 2
  it.each([['one', 1], ['two', 2], ['three', 3], ['five', 5], ['seven-or-so', 7], ['three-groups', 9]])(
    '%s shows its bundle traces', (s, n) => expect(dots('scar.bundles', s)).toBe(n),
  )
  it('opposite twigs leave the stem at one height, alternate ones do not', () => {
    const heights = (s: string) => [...(stroke('twig.arrangement', s) ?? '').matchAll(/M24 (\d+)Q/g)].map((m) => m[1])
    expect(heights('opposite')).toEqual(['36', '36', '20', '20'])
    expect(new Set(heights('alternate')).size).toBe(4)
  })
})
