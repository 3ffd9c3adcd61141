import { createRouter, createWebHistory } from 'vue-router'
import { nextTick } from 'vue'
import { checksRoom } from '../checks/room'
import { crewRoom } from '../crew/room'
import { dayRoom } from '../day/room'
import { deskRoom } from '../desk/room'
import { filesRoom } from '../files/room'
import { floraRoom } from '../flora/room'
import { keptRoom } from '../kept/room'
import { keyRoom } from '../key/room'
import { measureRoom } from '../measure/room'
import { paperRoom } from '../paper/room'
import { photosRoom } from '../photos/room'
import { practiceRoom } from '../practice/room'
import { settingsRoom } from '../settings/room'
import { standsRoom } from '../stands/room'
import { treesRoom } from '../trees/room'
import { woodsRoom } from '../woods/room'

import { follow } from './place'

/** Every room lists its own pages; the first view is the trees. */
export const router = createRouter({
  history: createWebHistory(),
  /** Back to where one was in a list; else to the page's start. A filter leaves one there. */
  async scrollBehavior(to, from, saved) {
    await nextTick()
    return saved ?? (to.path === from.path ? false : { top: 0 })
  },
  routes: [
    ...treesRoom,
    ...dayRoom,
    ...deskRoom,
    ...standsRoom,
    ...filesRoom,
    ...floraRoom,
    ...keyRoom,
    ...measureRoom,
    ...paperRoom,
    ...photosRoom,
    ...practiceRoom,
    ...checksRoom,
    ...crewRoom,
    ...keptRoom,
    ...settingsRoom,
    ...woodsRoom,
    { path: '/:rest(.*)', redirect: '/' },
  ],
})
follow(router)
