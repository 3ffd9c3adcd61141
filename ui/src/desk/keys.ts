/** The shortcuts of the scoring desk, as the sheet shows them. */
export const shortcuts = [
  { keys: '1 … 9, 0', does: 'press the first … tenth state of the character in hand; again lowers certainty' },
  { keys: 'y, n', does: 'a sign: seen; looked for, not seen' },
  { keys: 'p, s', does: 'count a pair; count a single' },
  { keys: 'm', does: 'write a measure; Escape leaves the field' },
  { keys: 'e', does: 'keep either of two states' },
  { keys: 'j, k', does: 'next and previous character' },
  { keys: 'l', does: 'next part of the tree (bark, twig, buds …)' },
  { keys: 'x', does: 'withdraw the score of the character in hand' },
  { keys: 'u, r', does: 'undo, redo' },
  { keys: 'g', does: 'go to the best next look' },
  { keys: 'w', does: 'key walk: one question at a time' },
  { keys: 'd', does: 'the tree drawn beside its leader' },
  { keys: '?', does: 'this sheet' },
]

/** The card of the character in hand: the one that holds the focus, else the first on the screen. */
export function cardInHand(): HTMLElement | null {
  const focused = document.activeElement?.closest<HTMLElement>('[data-card]')
  return focused ?? document.querySelector<HTMLElement>('[data-card]')
}

/** Presses what a selector finds in the card in hand; says whether there was anything. */
function press(css: string): boolean {
  const button = cardInHand()?.querySelector<HTMLElement>(css)
  button?.focus({ preventScroll: true })
  button?.click()
  return Boolean(button)
}

function move(by: number): boolean {
  const cards = [...document.querySelectorAll<HTMLElement>('[data-card]')]
  const at = cards.indexOf(cardInHand() as HTMLElement)
  const inHand = document.activeElement?.closest('[data-card]')
  const next = cards[Math.max(0, Math.min(cards.length - 1, inHand ? at + by : 0))]
  next?.scrollIntoView({ block: 'nearest' })
  next?.focus({ preventScroll: true }) // the card itself: in its field, letters would be typed
  return Boolean(next)
}

function nextPart(): boolean {
  const parts = [...document.querySelectorAll<HTMLElement>('[data-section]')]
  const at = parts.findIndex((p) => p.getAttribute('aria-selected') === 'true')
  parts[(at + 1) % parts.length]?.click()
  return parts.length > 0
}

/** Does what a key asks of the card in hand; false where the key is no business of a card. */
export function pressKey(key: string): boolean {
  if (/^[0-9]$/.test(key)) {
    const tiles = cardInHand()?.querySelectorAll<HTMLElement>('[data-state]')
    const tile = tiles?.[key === '0' ? 9 : Number(key) - 1]
    tile?.focus({ preventScroll: true })
    tile?.click()
    return Boolean(tile)
  }
  switch (key) {
    case 'y':
      return press('[data-seen="true"]')
    case 'n':
      return press('[data-seen="false"]')
    case 'p':
      return press('[data-tally="pair"]')
    case 's':
      return press('[data-tally="single"]')
    case 'm': {
      const field = cardInHand()?.querySelector<HTMLElement>('input')
      field?.focus()
      return Boolean(field)
    }
    case 'e':
      return press('[data-either]')
    case 'x':
      return press('[data-withdraw]')
    case 'j':
      return move(1)
    case 'k':
      return move(-1)
    case 'l':
      return nextPart()
    default:
      return false
  }
}
