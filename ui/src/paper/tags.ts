import { nextTag } from './tag'

/** So many tags from one on, counted up; none where it does not end in a figure. */
export function tagsFrom(first: string, many: number): string[] {
  const out: string[] = []
  let tag = first.trim()
  if (!tag || !nextTag(tag)) return out
  for (let i = 0; i < Math.min(500, Math.max(0, many)); i++) {
    out.push(tag)
    tag = nextTag(tag)
  }
  return out
}
