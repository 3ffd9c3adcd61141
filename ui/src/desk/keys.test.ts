import { beforeEach, describe, expect, it } from 'vitest'
import { cardInHand, pressKey, shortcuts } from './keys'

let pressed: string[] = []

beforeEach(() => {
  pressed = []
  const tiles = Array.from({ length: 11 }, (_, i) => `<button data-state="s${i + 1}"></button>`).join('')
  document.body.innerHTML = `
    <button data-section="bark" aria-selected="true"></button><button data-section="twig" aria-selected="false"></button>
    <section data-card="first" tabindex="-1" data-hand>
      ${tiles}<button data-either="e"></button><button data-withdraw="x"></button></section>
    <section data-card="second" tabindex="-1"><button data-seen="true"></button><button data-seen="false"></button>
      <button data-tally="pair"></button><button data-tally="single"></button><button data-tally="back"></button>
      <input data-measure></section>`
  document.body.onfocus = null
  document.body.onclick = (e) => {
    const d = (e.target as HTMLElement).dataset
    pressed.push(d.state ?? d.seen ?? d.tally ?? d.either ?? d.withdraw ?? d.section ?? '')
  }
})

/** Presses keys one after another, as fingers would. */
const type = (...keys: string[]) => keys.map(pressKey)

/** As the page does: the card that has the focus is the one in hand. */
document.addEventListener('focusin', (e) => {
  const card = (e.target as HTMLElement).closest('[data-card]')
  if (!card) return
  for (const c of document.querySelectorAll('[data-card]')) c.toggleAttribute('data-hand', c === card)
})

describe('keys of the card in hand', () => {
  it('press its tiles by number, the tenth by 0, and show where they landed', () => {
    expect(type('1', '3', '0')).toEqual(['acted', 'acted', 'acted'])
    expect(pressed).toEqual(['s1', 's3', 's10'])
    expect(document.querySelectorAll('.landed')).toHaveLength(3)
  })
  it('press nothing of a card that nobody took', () => {
    document.querySelector('[data-hand]')?.removeAttribute('data-hand')
    expect(type('1', 'y', 'x', 'm', 'c')).toEqual(['empty', 'empty', 'empty', 'empty', 'empty'])
    expect(pressed).toEqual([])
    expect(type('j', '1')).toEqual(['acted', 'acted'])
    expect(pressed).toEqual(['s1'])
  })
  it('press nothing in a closed fold', () => {
    document.querySelector('[data-hand]')!.innerHTML = '<details><summary>more</summary><button data-state="hidden"></button></details>'
    expect(type('1')).toEqual(['nothing'])
    document.querySelector('details')!.open = true
    expect(type('1')).toEqual(['acted'])
    expect(pressed).toEqual(['hidden'])
  })
  it('bring what is out of sight into it, and press it only then', () => {
    const tile = document.querySelector<HTMLElement>('[data-state="s1"]')!
    let top = 5000
    tile.getBoundingClientRect = () => ({ top, bottom: top + 48 }) as DOMRect
    tile.scrollIntoView = () => (top = 100)
    expect(type('1', '1')).toEqual(['shown', 'acted'])
    expect(pressed).toEqual(['s1'])
  })
  it('withdraw, and keep either', () => {
    type('e', 'x')
    expect(pressed).toEqual(['e', 'x'])
  })
  it('go to the next card and its own buttons, and no further than the last', () => {
    type('j', 'j', 'j', 'y', 'n', 'p', 's', 'b')
    expect(cardInHand()?.dataset.card).toBe('second')
    expect(pressed).toEqual(['true', 'false', 'pair', 'single', 'back'])
    expect(type('1')).toEqual(['nothing'])
    type('k', '2')
    expect(pressed.at(-1)).toBe('s2')
  })
  it('go round the certainties', () => {
    document.querySelector('[data-hand]')!.innerHTML =
      '<button data-certainty aria-pressed="false"></button><button data-certainty aria-pressed="true" data-state="now"></button>'
    type('c')
    expect(document.activeElement?.hasAttribute('data-certainty')).toBe(true)
    expect(document.activeElement?.getAttribute('aria-pressed')).toBe('false')
  })
  it('go into the measure of a card that has one', () => {
    expect(type('m')).toEqual(['nothing'])
    expect(type('j', 'm')).toEqual(['acted', 'acted'])
    expect(document.activeElement?.tagName).toBe('INPUT')
  })
  it('go round the parts of the tree', () => {
    type('l')
    expect(pressed).toEqual(['twig'])
  })
  it('choose where a new look comes from, and answer a walk', () => {
    document.body.innerHTML =
      '<div data-choosing><button data-from="a"></button><button data-from="b"></button><button data-leave></button></div>'
    expect(type('2', 'Escape')).toEqual(['acted', 'acted'])
    document.body.innerHTML =
      '<main data-walking><button data-option="0"></button><button data-skip></button><button data-leave></button></main>'
    expect(type('1', '0', 'Escape')).toEqual(['acted', 'acted', 'acted'])
  })
  it('leave others alone', () => {
    expect(type('q', 'Tab', '?', 'u')).toEqual(['nothing', 'nothing', 'nothing', 'nothing'])
    document.body.innerHTML = ''
    expect(type('1', 'j', 'l', 'y', 'm')).toEqual(['empty', 'nothing', 'nothing', 'empty', 'empty'])
  })
  it('stand on the sheet', () => {
    const sheet = shortcuts.map((s) => s.keys).join(' ')
    for (const k of 'ynpsbmceczejklxagutwd') expect(sheet).toMatch(new RegExp(`\\b${k}\\b`))
  })
})
