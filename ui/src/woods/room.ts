import type { RouteRecordRaw } from 'vue-router'

/** A device with a part of the book, away from home. */
export const woodsRoom: RouteRecordRaw[] = [
  { path: '/woods', name: 'woods', component: () => import('./WoodsView.vue'), meta: { title: 'Offline' } },
]
