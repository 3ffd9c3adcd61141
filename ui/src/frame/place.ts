import type { Router } from 'vue-router'

/** Where one is, where one came from, and where the work goes on there. */
let pages = 0 // that were opened in this window
let from = '/'

/** Whether a page was come to from another, rather than opened first. */
export const walked = () => pages > 1

/** The list that one came to a tree from, for going back to it. */
export const cameFrom = () => from

/** Pages that one goes back to from a tree. */
const lists = ['trees', 'worklist', 'map', 'stands']

export function follow(router: Router): void {
  router.afterEach((to, before) => {
    pages++
    if (lists.includes(String(before.name))) from = before.fullPath
    else if (lists.includes(String(to.name))) from = to.fullPath
  })
}

/** Names the window after the page. */
export function titled(page: string): void {
  document.title = page === 'Pale Thicket' ? page : `${page} · Pale Thicket`
}
