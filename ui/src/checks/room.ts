import type { RouteRecordRaw } from 'vue-router'

/** What names are worth: check cruises, and what spring said. */
export const checksRoom: RouteRecordRaw[] = [
  { path: '/checks', name: 'checks', component: () => import('./ChecksView.vue') },
  { path: '/checks/:id', name: 'check', component: () => import('./CheckView.vue'), props: true },
]
