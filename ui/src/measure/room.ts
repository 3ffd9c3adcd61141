import type { RouteRecordRaw } from 'vue-router'

/** The sums of the tally card. */
export const measureRoom: RouteRecordRaw[] = [{ path: '/measure', name: 'measure', component: () => import('./MeasureView.vue') }]
