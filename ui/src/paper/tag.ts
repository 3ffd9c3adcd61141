/** The tag after one, as the book counts (core/label Next): its last figure counted up, with as many digits. */
export function nextTag(last: string): string {
  const m = /^(.*?)(\d{1,12})(\D*)$/.exec(last)
  if (!m) return ''
  const [, before, digits, after] = m
  return before + String(Number(digits) + 1).padStart(digits.length, '0') + after
}
