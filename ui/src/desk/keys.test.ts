import { beforeEach, describe, expect, it } from 'vitest'
import { cardInHand, pressKey, shortcuts } from './keys'

let pressed: string[] = []

beforeEach(() => {
  pressed = []
  const tiles = Array.from({ length: 11 }, (_, i) => `<button data-state="s${i + 1}"></button>`).join('')
  document.body.innerHTML = `
    <button data-section="bark" aria-selected="true"></button><button data-section="twig" aria-selected="false"></button>
    <section data-card="first" tabindex="-1">${tiles}<button data-either="e"></button><button data-withdraw="x"></button></section>
    <section data-card="second" tabindex="-1"><button data-seen="true"></button><button data-seen="false"></button>
      <button data-tally="pair"></button><button data-tally="single"></button><input></section>`
  document.body.onclick = (e) => {
    const d = (e.target as HTMLElement).dataset
    pressed.push(d.state ?? d.seen ?? d.tally ?? d.either ?? d.withdraw ?? d.section ?? '')
  }
})

/** Presses keys one after another, as fingers would. */
const type = (...keys: string[]) => keys.map(pressKey)

describe('keys of the card in hand', () => {
  it('press its tiles by number, the tenth by 0', () => {
    expect(type('1', '3', '0')).toEqual([true, true, true])
    expect(pressed).toEqual(['s1', 's3', 's10'])
  })
  it('withdraw, and keep either', () => {
    type('e', 'x')
    expect(pressed).toEqual(['e', 'x'])
  })
  it('go to the next card and its own buttons, and no further than the last', () => {
    type('j', 'j', 'j', 'y', 'n', 'p', 's')
    expect(cardInHand()?.dataset.card).toBe('second')
    expect(pressed).toEqual(['true', 'false', 'pair', 'single'])
    expect(type('1')).toEqual([false])
    type('k', '2')
    expect(pressed.at(-1)).toBe('s2')
  })
  it('go into the measure of a card that has one', () => {
    expect(type('m')).toEqual([false])
    expect(type('j', 'j', 'm')).toEqual([true, true, true])
    expect(document.activeElement?.tagName).toBe('INPUT')
  })
  it('go round the parts of the tree', () => {
    type('l')
    expect(pressed).toEqual(['twig'])
  })
  it('leave others alone', () => {
    expect(type('q', 'Tab', '?', 'u')).toEqual([false, false, false, false])
    document.body.innerHTML = ''
    expect(type('1', 'j', 'l', 'y', 'm')).toEqual([false, false, false, false, false])
  })
  it('stand on the sheet', () => {
    const sheet = shortcuts.map((s) => s.keys).join(' ')
    for (const k of ['y', 'n', 'p', 's', 'm', 'e', 'j', 'k', 'l', 'x']) expect(sheet).toMatch(new RegExp(`\\b${k}\\b`))
  })
})
