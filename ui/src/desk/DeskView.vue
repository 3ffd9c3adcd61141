<script setup lang="ts">
import Tab from 'primevue/tab'
import TabList from 'primevue/tablist'
import Tabs from 'primevue/tabs'
import { useDocumentVisibility, useEventListener, useIntervalFn, useWindowFocus } from '@vueuse/core'
import { defineAsyncComponent, ref, watch } from 'vue'
import { noConnection } from '../frame/ask'
import { pressKey } from './keys'
import ScorePane from './ScorePane.vue'
import LookSlips from './LookSlips.vue'
import StandingPanel from '../standing/StandingPanel.vue'
import TreeHeader from './TreeHeader.vue'
import { useTree } from './tree'

const KeySheet = defineAsyncComponent(() => import('./KeySheet.vue'))
const KeyWalk = defineAsyncComponent(() => import('./KeyWalk.vue'))
const DrawnDialog = defineAsyncComponent(() => import('../standing/DrawnDialog.vue'))

const props = defineProps<{ id: string }>()
const tree = useTree()
const pane = ref<'looks' | 'desk' | 'standing'>('desk')
const panes = [
  { id: 'looks', label: 'Looks', icon: 'pi-list' },
  { id: 'desk', label: 'Score', icon: 'pi-pencil' },
  { id: 'standing', label: 'Standing', icon: 'pi-chart-bar' },
] as const

watch(() => props.id, tree.open, { immediate: true })

const keys = ref(false)
const drawn = ref(false)
const walking = ref(false)

useEventListener(document, 'keydown', (e: KeyboardEvent) => {
  const at = e.target as HTMLElement
  if (e.key === 'Escape' && at.matches('[data-card] input')) at.closest<HTMLElement>('[data-card]')?.focus()
  if (e.ctrlKey || e.metaKey || e.altKey || at.closest('input, textarea, select, [role="dialog"]')) return
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
      walk()
      return true
    case 'u':
      tree.undo()
      return true
    case 'r':
      tree.redo()
      return true
    case 'g': {
      const next = tree.view?.result.next?.[0]
      if (next) tree.goTo(next.character, next.from)
      return Boolean(next)
    }
    default:
      return pressKey(key)
  }
}

function walk() {
  walking.value = !walking.value
  pane.value = 'desk'
}

function openDesk() {
  walking.value = false
  pane.value = 'desk'
}

const focused = useWindowFocus()
watch(focused, (now) => now && tree.refresh())
const visibility = useDocumentVisibility()
useIntervalFn(() => visibility.value === 'visible' && tree.refresh(), 5000) // nobody looks at a hidden page
</script>

<template>
  <div v-if="tree.view" class="page">
    <TreeHeader @keys="keys = true" @walk="walk" />
    <div class="desk" :data-pane="pane">
      <LookSlips class="pane looks" @open="openDesk" />
      <KeyWalk v-if="walking" class="pane middle" @close="walking = false" @drawn="drawn = true" />
      <ScorePane v-else class="pane middle" />
      <StandingPanel class="pane standing" @open="openDesk" @drawn="drawn = true" />
    </div>
    <Tabs v-model:value="pane" class="panes">
      <TabList aria-label="Parts of the screen">
        <Tab v-for="p in panes" :key="p.id" :value="p.id" :data-to="p.id"
          ><i class="pi" :class="p.icon" aria-hidden="true"></i> {{ p.label }}</Tab
        >
      </TabList>
    </Tabs>
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
  grid-template-rows: auto 1fr;
  height: 100dvh;
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

.middle {
  background: var(--pt-snow);
  border-inline: 1px solid var(--pt-line);
}

.panes {
  display: none;
}

.waiting {
  display: grid;
  gap: 1rem;
  place-content: center;
  min-height: 100dvh;
}

@media (max-width: 900px) {
  .page {
    grid-template-rows: auto 1fr auto;
  }

  .desk {
    grid-template-columns: minmax(0, 1fr);
  }

  .desk[data-pane='looks'] .pane:not(.looks),
  .desk[data-pane='desk'] .pane:not(.middle),
  .desk[data-pane='standing'] .pane:not(.standing) {
    display: none;
  }

  .panes {
    display: block;
    border-top: 1px solid var(--pt-line);
  }

  .panes :deep(.p-tablist-tab-list) {
    border: 0;
    background: var(--pt-paper);
  }

  .panes :deep(.p-tab) {
    flex: 1;
    justify-content: center;
    min-height: 56px;
    padding: 0.25rem 0.125rem;
    font-size: min(1rem, 5vw); /* large text must not break the three words */
  }
}
</style>
