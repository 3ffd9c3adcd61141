import type { RouteRecordRaw } from 'vue-router'

/** Files in and out. */
export const filesRoom: RouteRecordRaw[] = [{ path: '/files', name: 'files', component: () => import('./FilesView.vue') }]
