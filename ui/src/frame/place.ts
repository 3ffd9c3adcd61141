import type { Router } from 'vue-router'

/** Where one is, where one came from, and where the work goes on there. */
let pages = 0 // that were opened in this window
let from = '/'
let away = false // while another page is fetched

/** Whether a page was come to from another, rather than opened first. */
export const walked = () => pages > 1

/** The list that one came to a tree from, for going back to it. */
export const cameFrom = () => from

/** Whether another page is on its way. */
export const leaving = () => away

/** Pages that one goes back to from a tree. */
const lists = ['trees', 'worklist', 'map', 'stands']

export function follow(router: Router): void {
  router.beforeEach((to, before) => {
    away = to.path !== before.path
  })
  router.onError(() => (away = false))
  router.afterEach((to, before) => {
    away = false
    if (to.path !== before.path || !before.matched.length) pages++
    if (lists.includes(String(before.name))) from = before.fullPath
    else if (lists.includes(String(to.name))) from = to.fullPath
  })
}

/** Names the window after the page. */
export function titled(page: string): void {
  document.title = page === 'Pale Thicket' ? page : `${page} · Pale Thicket`
}
