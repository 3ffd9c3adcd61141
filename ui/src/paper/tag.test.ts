import { expect, it } from 'vitest'
import { nextTag } from './tag'

it.each([
  ['LC-401', 'LC-402'],
  ['LC-009', 'LC-010'],
  ['99', '100'],
  ['7b', '8b'],
  ['oak', ''],
  ['', ''],
])('after %s comes %s', (last, next) => expect(nextTag(last)).toBe(next))
