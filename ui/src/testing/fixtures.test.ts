import { readdirSync, readFileSync } from 'node:fs'
import { expect, it } from 'vitest'

/** What tests make up must be of the flora, or they could pass where the program would not. */
it('every character that a test names is one of the flora', () => {
  const known = new Set([...readFileSync('../flora/characters.yaml', 'utf8').matchAll(/- id: ([a-z]+\.[a-z-]+)/g)].map((m) => m[1]))
  const parts = new Set([...known].map((id) => id.split('.')[0]))
  expect(known.size).toBeGreaterThan(80)
  const tests = readdirSync('src', { recursive: true, encoding: 'utf8' }).filter((f) => f.endsWith('.test.ts') || f === 'testing/words.ts')
  for (const file of tests) {
    for (const [, id] of readFileSync(`src/${file}`, 'utf8').matchAll(/'([a-z]+\.[a-z-]+)'/g)) {
      if (parts.has(id.split('.')[0]) && id !== 'twig.misspelt') expect(known, `${id} in ${file}`).toContain(id)
    }
  }
})
