import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { expect, it } from 'vitest'

it('has a style for each of the library’s controls that are used', () => {
  const sources = readdirSync('src', { recursive: true, encoding: 'utf8' }).filter((f) => f.endsWith('.vue') || f.endsWith('main.ts'))
  const used = new Set(sources.flatMap((f) => [...readFileSync(`src/${f}`, 'utf8').matchAll(/'primevue\/([a-z]+)'/g)].map((m) => m[1])))
  expect(used).toContain('menu')
  const styled = readFileSync('src/frame/theme.ts', 'utf8')
  for (const name of used)
    if (existsSync(`node_modules/@primeuix/themes/dist/aura/${name}`)) expect(styled, name).toContain(`aura/${name}'`)
})
