import type { RouteRecordRaw } from 'vue-router'

/** Who is at work. */
export const crewRoom: RouteRecordRaw[] = [{ path: '/crew', name: 'crew', component: () => import('./CrewView.vue') }]
