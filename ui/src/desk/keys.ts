/** The shortcuts of the scoring desk, as the sheet shows them. */
export const shortcuts = [
  { keys: 'j, k', does: 'take the next, the previous character in hand; it is framed' },
  { keys: '1 … 9, 0', does: 'press its first … tenth state; again lowers certainty' },
  { keys: 'y, n', does: 'a sign: seen; looked, not seen' },
  { keys: 'p, s, b', does: 'count a pair; count a single; one back' },
  { keys: 'm', does: 'write its measure; Enter keeps it, Escape leaves it as it was' },
  { keys: 'c', does: 'its certainty: sure, fair, guess' },
  { keys: 'z', does: 'the next height on the trunk' },
  { keys: 'e', does: 'keep either of two states' },
  { keys: 'x', does: 'withdraw its score' },
  { keys: 'l', does: 'next part of the tree (bark, twig, buds …)' },
  { keys: '[, ]', does: 'the look before, the look after' },
  { keys: 'a', does: 'a new look; 1 … 6 choose where it comes from, Escape leaves it' },
  { keys: 'g', does: 'go to the best next look' },
  { keys: 'u, r', does: 'undo, redo what you did' },
  { keys: 't', does: 'write the name down; Enter keeps the one that is offered' },
  { keys: 'w', does: 'key walk; 1, 2 answer, 0 cannot tell, Escape leaves it' },
  { keys: 'd', does: 'the tree drawn beside its leader' },
  { keys: '?', does: 'this sheet' },
]

/** What a key did: it acted, it had to bring into sight first what it would act on, or there is nothing in hand. */
export type Did = 'acted' | 'shown' | 'empty' | 'nothing'

/** The card of the character in hand, which is framed; none until one was taken. */
export function cardInHand(): HTMLElement | null {
  const card = document.querySelector<HTMLElement>('[data-card][data-hand]')
  return card && shown(card) ? card : null
}

/** Whether an element is drawn at all: not in a pane that is put away, nor in a closed fold. */
function shown(el: HTMLElement): boolean {
  const fold = el.closest('details:not([open])')
  return !(fold && el.closest('summary') === null) && (el.checkVisibility?.() ?? true)
}

function inSight(el: HTMLElement): boolean {
  const { top, bottom } = el.getBoundingClientRect()
  return bottom >= 0 && top <= window.innerHeight
}

/** Presses an element and shows where the press landed. One that was out of sight is only brought into it. */
function land(el: HTMLElement | null | undefined): Did {
  if (!el || !shown(el)) return 'nothing'
  if (!inSight(el)) {
    el.scrollIntoView({ block: 'center' })
    return 'shown'
  }
  el.focus({ preventScroll: true })
  el.click()
  el.classList.add('landed')
  window.setTimeout(() => el.classList.remove('landed'), 900)
  return 'acted'
}

const find = (css: string) => document.querySelector<HTMLElement>(css)
const all = (css: string, within: ParentNode = document) => [...within.querySelectorAll<HTMLElement>(css)]

/** Presses what a selector finds in the card in hand. */
function inHand(css: string, nth = 0): Did {
  const card = cardInHand()
  return card ? land(all(css, card)[nth]) : 'empty'
}

/** Presses the one after that which is pressed, round and round. */
function cycle(css: string): Did {
  const card = cardInHand()
  if (!card) return 'empty'
  const buttons = all(css, card)
  const at = buttons.findIndex((b) => b.getAttribute('aria-pressed') === 'true')
  return land(buttons[(at + 1) % buttons.length])
}

function move(by: number): Did {
  const cards = all('[data-card]')
  const now = cardInHand()
  const next = cards[now ? Math.max(0, Math.min(cards.length - 1, cards.indexOf(now) + by)) : 0]
  next?.scrollIntoView({ block: 'nearest' })
  next?.focus({ preventScroll: true }) // the card itself: in its field, letters would be typed
  return next ? 'acted' : 'nothing'
}

function nextPart(): Did {
  const parts = all('[data-section]')
  const at = parts.findIndex((p) => p.getAttribute('aria-selected') === 'true')
  parts[(at + 1) % parts.length]?.click()
  return parts.length ? 'acted' : 'nothing'
}

function otherLook(by: number): Did {
  const slips = all('[data-look]')
  const at = slips.findIndex((s) => s.getAttribute('aria-current') === 'true')
  const slip = slips[Math.max(0, Math.min(slips.length - 1, at + by))]
  slip?.click()
  return slip ? 'acted' : 'nothing'
}

/** A digit chooses where a new look comes from, answers a question of the key walk, or presses a state of the card in hand. */
function digit(key: string): Did {
  const n = Number(key)
  if (find('[data-choosing]')) return land(all('[data-choosing] [data-from]')[n - 1])
  if (find('[data-walking]')) return land(n ? all('[data-option]')[n - 1] : find('[data-skip]'))
  return inHand('[data-state]', n ? n - 1 : 9)
}

const keys: Record<string, () => Did> = {
  y: () => inHand('[data-seen="true"]'),
  n: () => inHand('[data-seen="false"]'),
  p: () => inHand('[data-tally="pair"]'),
  s: () => inHand('[data-tally="single"]'),
  b: () => inHand('[data-tally="back"]'),
  e: () => inHand('[data-either]'),
  x: () => inHand('[data-withdraw]'),
  c: () => cycle('[data-certainty]'),
  z: () => cycle('[data-zone]'),
  m: () => {
    const card = cardInHand()
    const field = card?.querySelector<HTMLElement>('[data-measure]')
    field?.focus()
    return !card ? 'empty' : field ? 'acted' : 'nothing'
  },
  j: () => move(1),
  k: () => move(-1),
  l: nextPart,
  '[': () => otherLook(-1),
  ']': () => otherLook(1),
  a: () => land(find('#add-look')),
  Escape: () => land(find('[data-choosing] [data-leave]') ?? find('[data-walking] [data-leave]')),
}

/** Does what a key asks of the card in hand and what is around it. */
export function pressKey(key: string): Did {
  return /^[0-9]$/.test(key) ? digit(key) : (keys[key]?.() ?? 'nothing')
}
