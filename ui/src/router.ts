import { createRouter, createWebHistory } from 'vue-router'
import TreesView from './views/TreesView.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'trees', component: TreesView },
    { path: '/trees/:id', name: 'tree', component: () => import('./views/TreeView.vue'), props: true },
    { path: '/:rest(.*)', redirect: '/' },
  ],
})
