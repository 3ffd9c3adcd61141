import type { RouteRecordRaw } from 'vue-router'

/** Stands, what grows in them, and the map. */
export const standsRoom: RouteRecordRaw[] = [
  { path: '/stands', name: 'stands', component: () => import('./StandsView.vue') },
  { path: '/map', name: 'map', component: () => import('./MapView.vue') },
]
