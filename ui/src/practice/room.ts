import type { RouteRecordRaw } from 'vue-router'

/** Learning the trees on drawn individuals. */
export const practiceRoom: RouteRecordRaw[] = [{ path: '/practice', name: 'practice', component: () => import('./PracticeView.vue') }]
