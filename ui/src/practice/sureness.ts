import type { Sure } from './practice'

/** How sure one is, and the key that says so together with Alt. */
export const sureness: { id: Sure; words: string; key: string }[] = [
  { id: 'sure', words: 'Sure', key: '1' },
  { id: 'fair', words: 'Fair', key: '2' },
  { id: 'guess', words: 'A guess', key: '3' },
]
