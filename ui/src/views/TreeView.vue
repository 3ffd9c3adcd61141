<script setup lang="ts">
import { useIntervalFn, useWindowFocus } from '@vueuse/core'
import { ref, watch } from 'vue'
import LookDesk from '../components/LookDesk.vue'
import LookSlips from '../components/LookSlips.vue'
import StandingPanel from '../components/StandingPanel.vue'
import TreeHeader from '../components/TreeHeader.vue'
import { useTree } from '../stores/tree'

const props = defineProps<{ id: string }>()
const tree = useTree()
const pane = ref<'looks' | 'desk' | 'standing'>('desk')
const panes = [
  { id: 'looks', label: 'Looks', icon: 'pi-list' },
  { id: 'desk', label: 'Score', icon: 'pi-pencil' },
  { id: 'standing', label: 'Standing', icon: 'pi-chart-bar' },
] as const

watch(() => props.id, tree.open, { immediate: true })

const focused = useWindowFocus()
watch(focused, (now) => now && tree.refresh())
useIntervalFn(() => tree.refresh(), 5000)
</script>

<template>
  <div v-if="tree.view" class="page">
    <TreeHeader />
    <div class="desk" :data-pane="pane">
      <LookSlips class="pane looks" @open="pane = 'desk'" />
      <LookDesk class="pane middle" />
      <StandingPanel class="pane standing" @open="pane = 'desk'" />
    </div>
    <nav aria-label="Parts of the screen">
      <button v-for="p in panes" :key="p.id" class="press quiet" :aria-current="pane === p.id" @click="pane = p.id">
        <i class="pi" :class="p.icon" aria-hidden="true"></i> {{ p.label }}
      </button>
    </nav>
  </div>
  <main v-else class="waiting">
    <p v-if="tree.error" class="wrong" role="alert">{{ tree.error }}</p>
    <p v-else-if="tree.offline" class="wrong" role="alert">No connection to the book. Trying again.</p>
    <p v-else>Opening the tree…</p>
    <RouterLink to="/">All trees</RouterLink>
  </main>
</template>

<style scoped>
.page {
  display: grid;
  grid-template-rows: auto 1fr;
  height: 100dvh;
}

.desk {
  display: grid;
  grid-template-columns: 15.5rem minmax(0, 1fr) 22rem;
  min-height: 0;
}

.pane {
  overflow-y: auto;
  padding: 0.75rem;
}

.middle {
  background: var(--pt-snow);
  border-inline: 1px solid var(--pt-line);
}

nav {
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

  nav {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 0.25rem;
    padding: 0.25rem;
    border-top: 1px solid var(--pt-line);
  }

  nav .press {
    min-height: 52px;
  }
}
</style>
