<script setup lang="ts">
import Tab from 'primevue/tab'
import TabList from 'primevue/tablist'
import Tabs from 'primevue/tabs'
import { until, useDocumentVisibility, useEventListener, useIntervalFn, useWindowFocus } from '@vueuse/core'
import { computed, defineAsyncComponent, nextTick, onUnmounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { noConnection } from '../frame/ask'
import KeptHere from '../frame/KeptHere.vue'
import { cameFrom, titled } from '../frame/place'
import { useSession } from '../frame/session'
import { capital, percent } from '../frame/words'
import { pressKey } from './keys'
import ScorePane from './ScorePane.vue'
import LookSlips from './LookSlips.vue'
import StandingPanel from '../standing/StandingPanel.vue'
import TreeHeader from './TreeHeader.vue'
import { useTree } from './tree'

const KeySheet = defineAsyncComponent(() => import('./KeySheet.vue'))
const SameTag = defineAsyncComponent(() => import('./SameTag.vue'))
const StrandedScores = defineAsyncComponent(() => import('./StrandedScores.vue'))
const KeyWalk = defineAsyncComponent(() => import('./KeyWalk.vue'))
const DrawnDialog = defineAsyncComponent(() => import('../standing/DrawnDialog.vue'))

const WalkLooks = defineAsyncComponent(() => import('../practice/WalkLooks.vue'))

const props = defineProps<{ id: string }>()
const tree = useTree()
const route = useRoute()
const router = useRouter()
const pane = ref<'looks' | 'desk' | 'standing'>('desk')
const panes = [
  { id: 'looks', label: 'Looks', icon: 'pi-list' },
  { id: 'desk', label: 'Score', icon: 'pi-pencil' },
  { id: 'standing', label: 'Standing', icon: 'pi-chart-bar' },
] as const

/** The panes are drawn one after another, so that a slow telephone answers the hand between them. */
const drawnPanes = ref(0)
watch(
  () => Boolean(tree.view),
  (there) => there && setTimeout(drawPane),
  { immediate: true },
)
function drawPane() {
  if (++drawnPanes.value < panes.length) setTimeout(drawPane)
}

const session = useSession()
watch(() => props.id, tree.open, { immediate: true })
watch(
  () => tree.view?.tree.tag,
  async (tag) => {
    titled(tag ?? 'A tree')
    if (!tag || tree.wanted || tree.naming) return
    await until(drawnPanes).toBe(panes.length)
    await nextTick()
    document.querySelector<HTMLElement>('[data-work]')?.focus({ preventScroll: true })
  },
)
onUnmounted(tree.leave)

/** Who leads, always in sight: on a telephone the standing is a press away. */
const leader = computed(() => {
  const r = tree.view?.result
  const first = r?.ranking?.[0]
  if (!first || !tree.looks.some((l) => l.scores?.length)) return { words: 'Nothing scored yet', chance: '' }
  if (r.probably.settled) return { words: `Probably ${r.probably.words}`, chance: percent(r.probably.posterior) }
  return r.named.settled
    ? { words: capital(r.named.words), chance: percent(r.named.posterior) }
    : { words: `${capital(first.english)} leads`, chance: percent(first.posterior) }
})
const next = computed(() => tree.view?.result.next?.[0])
function goNext() {
  if (!next.value) return
  tree.goTo(next.value.character, next.value.from)
  openDesk()
}

/** A tree begun by a press too many leaves the lists; its tag is free again. */
async function discard() {
  const here = route.path
  tree.setFacts({ aside: true })
  await until(() => tree.waiting).toBe(0) // whoever has no connection goes on meanwhile
  if (route.path === here) await router.replace(cameFrom())
}

const hint = ref('')
let hinting = 0
function say(words: string) {
  hint.value = words
  window.clearTimeout(hinting)
  hinting = window.setTimeout(() => (hint.value = ''), 4000)
}

const keys = ref(false)
const drawn = ref(false)
const walking = ref(false)

useEventListener(document, 'keydown', (e: KeyboardEvent) => {
  const at = e.target as HTMLElement
  if (e.ctrlKey || e.metaKey || e.altKey || e.repeat || at.closest('input, textarea, select, [role="dialog"], [role="alertdialog"]')) return
  const done = doKey(e.key)
  if (done) e.preventDefault()
})

function doKey(key: string): boolean {
  switch (key) {
    case '?':
      keys.value = true
      return true
    case 'd':
      drawn.value = true
      return true
    case 'w':
      if (session.may('observer')) walk()
      return true
    case 'u':
      tree.undo()
      return true
    case 'r':
      tree.redo()
      return true
    case 'g':
      goNext()
      return Boolean(next.value)
    case 't':
      void writeName()
      return true
    default:
      return onCard(key)
  }
}

function onCard(key: string): boolean {
  const did = pressKey(key)
  if (did === 'empty') say('No character is in hand: j takes the first, or press its card.')
  if (did === 'shown') say('Here it is; press again.')
  return did !== 'nothing'
}

async function writeName() {
  pane.value = 'standing'
  await until(drawnPanes).toBe(panes.length)
  await nextTick()
  document.getElementById('write-name')?.click()
}
watch(
  () => tree.naming,
  (now) => {
    if (now) void nextTick(writeName)
    tree.naming = false
  },
  { flush: 'post' },
)

function walk() {
  walking.value = !walking.value
  hint.value = ''
  pane.value = 'desk'
}

function openDesk() {
  walking.value = false
  pane.value = 'desk'
}

const focused = useWindowFocus()
watch(focused, (now) => now && tree.refresh())
const visibility = useDocumentVisibility()
// Nobody looks at a hidden page; where somebody else scores the same tree, they wait this long to see it.
useIntervalFn(() => visibility.value === 'visible' && session.ready && tree.refresh(), 15_000)
</script>

<template>
  <div v-if="tree.view" class="page">
    <div>
      <TreeHeader @keys="keys = true" @walk="walk" />
      <KeptHere />
      <WalkLooks v-if="tree.view.walk" :walk="tree.view.walk" :tree="id" />
      <SameTag v-if="tree.view.same_tag?.length" />
      <StrandedScores v-if="tree.view.stranded?.length" />
    </div>
    <div id="desk" class="desk" :data-pane="pane">
      <LookSlips v-if="drawnPanes > 2" class="pane looks" @open="openDesk" />
      <KeyWalk v-if="walking && drawnPanes" class="pane middle" @close="walking = false" @drawn="drawn = true" />
      <ScorePane v-else-if="drawnPanes" class="pane middle">
        <p v-if="route.query.filed" class="filed small" data-filed>
          <span>Filed in {{ [...new Set([tree.view.tree.stand, tree.view.tree.tract])].join(', ') }}.</span>
          <RouterLink class="press quiet" :to="{ name: 'story', params: { id } }">Change</RouterLink>
          <button class="press quiet" data-discard @click="discard">Discard</button>
        </p>
      </ScorePane>
      <StandingPanel v-if="drawnPanes > 1" class="pane standing" @open="openDesk" @drawn="drawn = true" />
    </div>
    <div v-if="tree.rejected" class="refused" role="alert">
      <span>Not kept. {{ tree.rejected.lines.join(' ') }}</span>
      <button class="press" data-seen-refusal @click="tree.rejected = null">Understood</button>
    </div>
    <p class="told" role="status">{{ hint }}</p>
    <div class="foot">
      <div class="always">
        <button class="press leader" data-leader @click="pane = 'standing'">
          <span aria-live="polite"
            >{{ leader.words }} <span class="chance">{{ leader.chance }}</span></span
          >
          <span v-if="tree.waiting" class="small soft">{{ tree.waiting }} to send</span>
        </button>
        <button v-if="next" class="press lead go" data-go-next :aria-label="`Look at next: ${next.name}`" @click="goNext">
          <span class="small">next:</span> {{ next.name }}
        </button>
      </div>
      <Tabs v-model:value="pane" class="panes">
        <TabList aria-label="Parts of the screen">
          <Tab v-for="p in panes" :key="p.id" :value="p.id" :data-to="p.id" aria-controls="desk"
            ><i class="pi" :class="p.icon" aria-hidden="true"></i> {{ p.label }}</Tab
          >
        </TabList>
      </Tabs>
    </div>
    <KeySheet v-if="keys" @close="keys = false" />
    <DrawnDialog v-if="drawn" @close="drawn = false" />
  </div>
  <main v-else class="waiting">
    <p v-if="tree.error" class="wrong" role="alert">{{ tree.error }}</p>
    <p v-else-if="tree.offline" class="wrong" role="alert">{{ noConnection }} Trying again.</p>
    <p v-else>Opening the tree…</p>
    <RouterLink to="/">All trees</RouterLink>
  </main>
</template>

<style scoped>
.page {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  grid-auto-rows: auto;
  height: calc(100dvh - var(--pt-over, 0px));
  overflow: hidden;
}

.desk {
  display: grid;
  grid-template-columns: 15.5rem minmax(0, 1fr) 22rem;
  min-height: 0;
}

.pane {
  position: relative; /* what is hidden in it must not lengthen the page */
  overflow-y: auto;
  padding: 0.75rem;
}

.looks {
  grid-area: 1 / 1;
}

.middle {
  grid-area: 1 / 2;
  background: var(--pt-snow);
  border-inline: 1px solid var(--pt-line);
}

.standing {
  grid-area: 1 / 3;
}

.foot {
  display: none;
}

.refused,
.told:not(:empty) {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 1rem;
  align-items: center;
  justify-content: space-between;
  padding: 0.25rem 0.75rem;
  background: var(--pt-straw);
  color: var(--pt-straw-ink);
}

.refused {
  background: var(--pt-sumac-pale);
  color: var(--pt-sumac);
  font-weight: 600;
}

.filed {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 0.75rem;
  align-items: center;
  color: var(--pt-soft);
}

.filed .press {
  white-space: nowrap;
}

.waiting {
  display: grid;
  gap: 1rem;
  place-content: center;
  min-height: calc(100dvh - var(--pt-over, 0px));
}

@media (max-width: 900px) {
  .desk {
    grid-template-columns: minmax(0, 1fr);
  }

  .desk .pane {
    grid-area: auto;
  }

  .desk[data-pane='looks'] .pane:not(.looks),
  .desk[data-pane='desk'] .pane:not(.middle),
  .desk[data-pane='standing'] .pane:not(.standing) {
    display: none;
  }

  .foot {
    display: block;
    border-top: 1px solid var(--pt-line);
    padding-bottom: env(safe-area-inset-bottom);
  }

  .always {
    display: grid;
    grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr);
    gap: 0.25rem;
    padding: 0.25rem 0.25rem 0;
  }

  .leader,
  .go {
    display: flex;
    flex-wrap: wrap;
    gap: 0 0.5rem;
    align-content: center;
    align-items: baseline;
    padding: 0.125rem 0.5rem;
    text-align: left;
    line-height: 1.15;
    overflow: hidden;
  }

  .chance {
    white-space: nowrap;
  }

  .leader {
    font-weight: 600;
    border-color: var(--pt-spruce);
  }

  .desk[data-pane='standing'] ~ .foot .leader {
    background: var(--pt-spruce-pale);
  }

  .panes :deep(.p-tablist-tab-list) {
    border: 0;
    background: var(--pt-paper);
  }

  .panes :deep(.p-tab) {
    flex: 1;
    justify-content: center;
    min-height: 52px;
    padding: 0.25rem 0.125rem;
    font-size: min(1rem, 5vw); /* large text must not break the three words */
  }
}

/* A desk seen at twice its size, or a telephone on its side: one row at the foot. */
@media (max-width: 900px) and (max-height: 520px) {
  .foot {
    display: grid;
    grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr);
  }

  .always {
    padding-bottom: 0.25rem;
  }
}

/* On paper: what was seen and how the tree stands. */
@media print {
  .page {
    display: block;
    height: auto;
    overflow: visible;
  }

  .desk {
    display: grid !important;
    grid-template-columns: 1fr 1.2fr;
    gap: 1rem;
  }

  .desk .pane {
    display: block !important;
    grid-area: auto;
    overflow: visible;
  }

  .desk .middle {
    display: none !important;
  }
}
</style>
