import { figure } from '../frame/words'

/** Bytes as people say them. */
export function bytes(n: number): string {
  if (n < 950_000) return `${figure(Math.max(1, n / 1000), 0)} kB`
  if (n < 950_000_000) return `${figure(n / 1e6, n < 1e7 ? 1 : 0)} MB`
  return `${figure(n / 1e9)} GB`
}
