import type { RouteRecordRaw } from 'vue-router'

/** Learning the trees on drawn individuals. */
export const practiceRoom: RouteRecordRaw[] = [
  { path: '/practice', name: 'practice', component: () => import('./PracticeView.vue') },
  { path: '/practice/crew', name: 'crew-practice', component: () => import('./CrewPractice.vue') },
  { path: '/practice/walks', name: 'walks', component: () => import('./WalksView.vue') },
  { path: '/practice/walks/:id', name: 'walk', component: () => import('./WalkView.vue'), props: true },
]
