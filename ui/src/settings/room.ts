import type { RouteRecordRaw } from 'vue-router'

/** How a person likes to work on this device. */
export const settingsRoom: RouteRecordRaw[] = [{ path: '/settings', name: 'settings', component: () => import('./SettingsView.vue') }]
