import { createRouter, createWebHistory } from 'vue-router'
import { crewRoom } from '../crew/room'
import { deskRoom } from '../desk/room'
import { filesRoom } from '../files/room'
import { floraRoom } from '../flora/room'
import { standsRoom } from '../stands/room'
import { treesRoom } from '../trees/room'

/** Every room lists its own pages; the first view is the trees. */
export const router = createRouter({
  history: createWebHistory(),
  routes: [...treesRoom, ...deskRoom, ...standsRoom, ...filesRoom, ...floraRoom, ...crewRoom, { path: '/:rest(.*)', redirect: '/' }],
})
