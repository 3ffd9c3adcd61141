import type { RouteRecordRaw } from 'vue-router'

/** Which trees to visit in a day, in which order. */
export const dayRoom: RouteRecordRaw[] = [{ path: '/day', name: 'day', component: () => import('./DayView.vue') }]
