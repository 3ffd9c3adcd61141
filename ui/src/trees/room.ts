import type { RouteRecordRaw } from 'vue-router'
import TreesView from './TreesView.vue'

/** Lists of trees, the worklist, and a tree's story. */
export const treesRoom: RouteRecordRaw[] = [
  { path: '/', name: 'trees', component: TreesView },
  { path: '/worklist', name: 'worklist', component: () => import('./WorklistView.vue') },
  { path: '/name', name: 'name', component: () => import('./NameTree.vue') },
  { path: '/trees/:id/story', name: 'story', component: () => import('./StoryView.vue'), props: true },
]
