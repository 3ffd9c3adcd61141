import type { RouteRecordRaw } from 'vue-router'

/** What is printed, keyed in from paper, and opened by its code. */
export const paperRoom: RouteRecordRaw[] = [
  { path: '/paper', name: 'paper', component: () => import('./PaperView.vue') },
  { path: '/paper/key-in', name: 'key-in', component: () => import('./KeyInView.vue') },
  { path: '/t/:id?', name: 'code', component: () => import('./CodeView.vue'), props: true },
]
