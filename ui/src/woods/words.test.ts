import { expect, test } from 'vitest'
import { bytes } from './words'

test.each([
  [0, '1 kB'],
  [139_000, '139 kB'],
  [4_230_000, '4.2 MB'],
  [39_000_000, '39 MB'],
  [10_700_000_000, '10.7 GB'],
])('%d bytes are %s', (n, words) => expect(bytes(n)).toBe(words))
