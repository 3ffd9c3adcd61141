import { Workbox } from 'workbox-window'
import type { Router } from 'vue-router'
import { answerServiceWorker, isAway, setProgram } from './device'
import { claim, leaving } from './messages'
import { fetchProgram } from './program'

/** How long the first visit goes on, in ms, before all pages are fetched beside it: that keeps a processor busy for seconds. */
const settled = 4_000

/** How long somebody waits, in ms, for pages that do not come to be kept. */
const patience = 30_000

let keep = async () => false

/** Says, once it is known, whether all pages lie on the device. */
export const pagesKept = () => keep()

/**
 * How long newer pages may be held up, in ms, by what the older ones still wait for, as drawings: then they are left, which ends that,
 * and it is tried again.
 */
const heldUp = 10_000

/**
 * Keeps the pages on the device, and renews them, with the program, when home has newer
 * ones: between two pages, never in the middle of a tree.
 */
export function keepPages(router: Router) {
  if (!('serviceWorker' in navigator) || import.meta.env.DEV) return
  answerServiceWorker()
  const wb = new Workbox('/sw.js')
  let wanted = false
  const inTree = () => router.currentRoute.value.name === 'tree'
  wb.addEventListener('waiting', () => void renew())

  async function renew() {
    if (isAway()) {
      try {
        setProgram(await fetchProgram(() => undefined))
      } catch {
        return // the next time there is a connection
      }
    }
    wanted = true
    if (!inTree()) leave()
  }

  let changed = false
  wb.addEventListener('controlling', (e) => (changed ||= Boolean(e.isUpdate)))

  function leave() {
    let left = false
    const go = () => {
      if (left) return
      left = true
      if (inTree())
        wanted = true // it was opened meanwhile: once it is left
      else location.assign(router.currentRoute.value.fullPath)
    }
    if (changed) return go()
    wb.addEventListener('controlling', go)
    navigator.serviceWorker.controller?.postMessage({ type: leaving })
    wb.messageSkipWaiting()
    setTimeout(go, heldUp)
  }
  router.afterEach((_to, from) => {
    if (!wanted || from.name === undefined || inTree()) return
    wanted = false
    leave()
  })

  let registered: Promise<unknown> | undefined
  const register = () => (registered ??= wb.register().catch(() => undefined)) // not served securely: as before
  setTimeout(() => void register(), navigator.serviceWorker.controller ? 0 : settled)
  const kept = navigator.serviceWorker.ready.then(({ active }) => {
    if (!navigator.serviceWorker.controller) active?.postMessage({ type: claim })
    return true
  })
  keep = async () => {
    const late = new Promise<false>((resolve) => setTimeout(() => resolve(false), patience))
    const there = Boolean(await register()) && (await Promise.race([kept, late]))
    if (!there) registered = undefined // one of the pages could not be fetched: the next download tries again
    return there
  }
}
