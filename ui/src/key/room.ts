import type { RouteRecordRaw } from 'vue-router'

/** Printed keys, and walking through one. */
export const keyRoom: RouteRecordRaw[] = [{ path: '/key', name: 'key', component: () => import('./KeyView.vue') }]
