/** What axe-core finds serious or worse. */
async function serious(context = document, options = { rules: { 'color-contrast': { enabled: false } } }) {
  const { violations } = await axe.run(context, { resultTypes: ['violations'], preload: false, ...options })
  const bad = violations.filter((v) => ['serious', 'critical'].includes(v.impact))
  const where = (n) => n.target.join(' ') + ' ' + (n.any[0]?.message ?? '')
  return bad.map((v) => v.id + ': ' + v.nodes.slice(0, 3).map(where).join(' | ')).join('\n')
}

const seenText = new Set()

/** Text that is hard to read. axe-core is slow at this, so of all text that looks the same, on any page, it gets one piece. */
function pale() {
  const fresh = []
  for (const e of document.querySelectorAll('body *')) {
    if (![...e.childNodes].some((n) => n.nodeType === Node.TEXT_NODE && n.data.trim()) || !e.checkVisibility()) continue
    const { color, fontSize, fontWeight, opacity } = getComputedStyle(e)
    const key = [color, fontSize, fontWeight, opacity, behind(e)].join()
    if (!seenText.has(key)) fresh.push(e)
    seenText.add(key)
  }
  return fresh.length ? serious({ include: fresh }, { runOnly: ['color-contrast'] }) : ''
}

/** The background of an element. */
function behind(e) {
  const { backgroundColor, backgroundImage } = getComputedStyle(e)
  const through = backgroundColor === 'rgba(0, 0, 0, 0)' && backgroundImage === 'none'
  return through && e.parentElement ? behind(e.parentElement) : backgroundColor + backgroundImage
}

/** Controls too low for a gloved finger. Links in a sentence do not count. */
function small() {
  const low = (e) => {
    const r = e.getBoundingClientRect()
    const s = getComputedStyle(e)
    if (!r.width || s.visibility === 'hidden' || e.closest('.sr-only, .leaflet-control-attribution') || e.type === 'range') return false
    if (e.type === 'checkbox' || e.type === 'radio') return (e.closest('label') ?? e).getBoundingClientRect().height < 43.5
    if (e.matches('a') && e.closest('p') && s.display === 'inline') return false
    return r.height < 43.5 && !(parseFloat(getComputedStyle(e, '::after').height) >= 43.5)
  }
  const name = (e) => `${e.tagName}.${e.className} ${e.textContent.trim().slice(0, 24)} ${Math.round(e.getBoundingClientRect().height)}`
  return [...document.querySelectorAll('a, button, select, summary, input:not([type="file"])')].filter(low).map(name).join('\n')
}

/** Buttons whose words stick out of them. */
function overfull() {
  const out = (e) => e.checkVisibility() && e.scrollWidth > e.clientWidth + 1 && !e.closest('.sr-only')
  return [...document.querySelectorAll('button')].filter(out).map((e) => e.textContent.trim().slice(0, 40)).join(' | ')
}

/** What makes the page scroll sideways. */
function wide() {
  const page = document.documentElement
  if (page.scrollWidth <= innerWidth + 1) return ''
  const beyond = (e) => e.getBoundingClientRect().right > innerWidth + 1 && !e.closest('.sideways > *')
  const out = [...document.querySelectorAll('body *')].filter(beyond)
  const name = (e) => `${e.tagName}.${e.className} ${e.textContent.slice(0, 30).trim()}`
  return `${page.scrollWidth} px: ` + out.slice(0, 12).map(name).join('\n')
}

/** A tree's page must leave room to score, and scroll only inside its panes. */
function cramped() {
  const desk = document.querySelector('.desk')
  if (!desk) return ''
  const high = Math.round(desk.getBoundingClientRect().height)
  if (high <= 120) return `the desk is ${high} px high`
  return document.documentElement.scrollHeight > innerHeight + 1 ? `the page scrolls: ${document.documentElement.scrollHeight} px` : ''
}

/** Changes a setting as another window would; the page follows at once. */
async function set(name, value) {
  const key = 'palethicket.' + name
  localStorage.setItem(key, value)
  dispatchEvent(new StorageEvent('storage', { key, newValue: value, storageArea: localStorage }))
  await still()
}

/** Waits until the page stops changing and moving. */
async function still() {
  const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms))
  for (let length = -1; length !== document.body.innerHTML.length; await wait(30)) length = document.body.innerHTML.length
  const ends = (a) => a.playState === 'running' && a.effect?.getComputedTiming().endTime !== Infinity
  await Promise.race([Promise.allSettled(document.getAnimations().filter(ends).map((a) => a.finished)), wait(1000)])
}

/** Says what does not fit. */
async function fits(when) {
  await still()
  return [wide() && `wider than the page ${when}: ${wide()}`, cramped() && `cramped ${when}: ${cramped()}`].filter(Boolean).join('\n')
}

/** Says what is wrong with the page: at the desk in every theme, on a phone also with text at twice its size. */
async function check(desk) {
  const found = []
  const note = (what, text) => text && found.push(`${what}: ${text}`)
  found.push(await fits('as it is'))
  note('too low to press', small())
  note('words stick out of', overfull())
  note('markup taken for more than text', document.querySelector('[data-evil]')?.outerHTML)
  note('a script of markup was run', location.pathname.startsWith('/evil') && location.pathname)
  note('axe-core', await serious())
  for (const theme of desk ? ['dark', 'contrast', 'light'] : []) {
    document.documentElement.dataset.theme = theme // the styles only, or every image would be drawn again
    await still()
    note('axe-core, ' + theme, await pale())
  }
  if (desk) return found.filter(Boolean).join('\n')
  await set('text', '200')
  note('text', getComputedStyle(document.documentElement).fontSize === '32px' ? '' : 'is not twice its size')
  found.push(await fits('with text at twice its size'))
  await set('text', '100')
  return found.filter(Boolean).join('\n')
}
