import type { RouteRecordRaw } from 'vue-router'

/** Measuring on a photograph. */
export const photosRoom: RouteRecordRaw[] = [
  { path: '/trees/:tree/photos/:id', name: 'photo', component: () => import('./PhotoView.vue'), props: true },
]
