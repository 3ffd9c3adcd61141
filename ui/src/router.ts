import { createRouter, createWebHistory } from 'vue-router'
import TreesView from './views/TreesView.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'trees', component: TreesView },
    { path: '/trees/:id', name: 'tree', component: () => import('./views/TreeView.vue'), props: true },
    { path: '/trees/:id/story', name: 'story', component: () => import('./views/StoryView.vue'), props: true },
    { path: '/worklist', name: 'worklist', component: () => import('./views/WorklistView.vue') },
    { path: '/map', name: 'map', component: () => import('./views/MapView.vue') },
    { path: '/stands', name: 'stands', component: () => import('./views/StandsView.vue') },
    { path: '/files', name: 'files', component: () => import('./views/FilesView.vue') },
    { path: '/crew', name: 'crew', component: () => import('./views/CrewView.vue') },
    { path: '/flora', name: 'flora', component: () => import('./views/FloraView.vue') },
    { path: '/flora/:name', name: 'taxon', component: () => import('./views/TaxonView.vue'), props: true },
    { path: '/characters', name: 'characters', component: () => import('./views/CharactersView.vue') },
    { path: '/characters/:id', name: 'character', component: () => import('./views/CharacterView.vue'), props: true },
    { path: '/compare', name: 'compare', component: () => import('./views/CompareView.vue') },
    { path: '/lists', name: 'lists', component: () => import('./views/ListsView.vue') },
    { path: '/:rest(.*)', redirect: '/' },
  ],
})
