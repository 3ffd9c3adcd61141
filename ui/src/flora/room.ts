import type { RouteRecordRaw } from 'vue-router'

/** The flora to browse, its characters, and lists of one's own. */
export const floraRoom: RouteRecordRaw[] = [
  { path: '/flora', name: 'flora', component: () => import('./FloraView.vue') },
  { path: '/flora/:name', name: 'taxon', component: () => import('./TaxonView.vue'), props: true },
  { path: '/characters', name: 'characters', component: () => import('./CharactersView.vue') },
  { path: '/characters/:id', name: 'character', component: () => import('./CharacterView.vue'), props: true },
  { path: '/compare', name: 'compare', component: () => import('./CompareView.vue') },
  { path: '/pair', name: 'pair', component: () => import('./PairView.vue') },
  { path: '/lists', name: 'lists', component: () => import('./ListsView.vue') },
]
