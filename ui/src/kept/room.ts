import type { RouteRecordRaw } from 'vue-router'

/** What is kept on the device until the book has it. */
export const keptRoom: RouteRecordRaw[] = [
  { path: '/waiting', name: 'waiting', component: () => import('./WaitingView.vue'), meta: { title: 'Kept on this device' } },
]
