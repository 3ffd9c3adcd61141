import type { RouteRecordRaw } from 'vue-router'

/** The desk at which a tree is scored. */
export const deskRoom: RouteRecordRaw[] = [{ path: '/trees/:id', name: 'tree', component: () => import('./DeskView.vue'), props: true }]
