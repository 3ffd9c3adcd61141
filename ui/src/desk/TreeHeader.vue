<script setup lang="ts">
import { onClickOutside } from '@vueuse/core'
import { computed, ref } from 'vue'
import { cameFrom } from '../frame/place'
import { useVocabulary } from '../frame/vocabulary'
import { useSession } from '../frame/session'
import { useSettings } from '../frame/settings'
import { useTree } from './tree'
import VisitPanel from './VisitPanel.vue'

defineEmits<{ keys: []; walk: [] }>()
const vocabulary = useVocabulary()
const tree = useTree()
const settings = useSettings()
const session = useSession()
const may = computed(() => session.may('observer')) // else everything is there to be read, and nothing to be set
const facts = computed(() => tree.view?.facts)
const open = ref(false)
/** Where the hand leaves the panel, it goes. */
const panel = ref<HTMLElement>()
onClickOutside(panel, () => (open.value = false), { ignore: ['#visit', '.p-tooltip'] })

function close() {
  open.value = false
  document.getElementById('visit')?.focus()
}

const back = cameFrom()
const lists: Record<string, string> = { '/worklist': 'worklist', '/map': 'map', '/stands': 'stands' }

const value = (e: Event) => (e.target as HTMLSelectElement).value
</script>

<template>
  <header v-if="tree.view && facts">
    <RouterLink class="press back" :to="back" :aria-label="`Back to the ${lists[back.split('?')[0]] ?? 'list'}`"
      ><i class="pi pi-arrow-left" aria-hidden="true"></i
    ></RouterLink>
    <h1>
      {{ tree.view.tree.tag }} <span class="soft stand">{{ tree.view.tree.stand }}</span>
      <RouterLink v-if="facts.aside" class="aside" :to="{ name: 'story', params: { id: tree.view.tree.id } }" data-set-aside
        >set aside: take it back in its story</RouterLink
      >
    </h1>
    <label class="route wide"
      ><span class="what">Route</span>
      <select id="route" v-model="settings.route" aria-label="Route">
        <option v-for="r in vocabulary.words?.routes" :key="r.id" :value="r.id">{{ r.words }}</option>
      </select>
    </label>
    <label class="wide"
      ><span class="what">Age</span>
      <select id="age" aria-label="Age" :disabled="!may" :value="facts.age" @change="tree.setFacts({ age: value($event) })">
        <option value="">not judged</option>
        <option v-for="a in vocabulary.words?.ages" :key="a.id" :value="a.id">{{ a.words }}</option>
      </select>
    </label>
    <button v-if="may" class="press wide" data-walk @click="$emit('walk')">Key walk</button>
    <RouterLink class="press fold story wide" :to="{ name: 'story', params: { id: tree.view.tree.id } }">Story</RouterLink>
    <button id="visit" class="press fold" :aria-expanded="open" aria-controls="visit-panel" @click="open = !open">
      <span class="wide">Visit</span><i class="pi pi-ellipsis-h narrow" aria-label="Visit, route, key walk, story"></i
      ><span v-if="facts.unusual?.length" class="soft small wide">{{ facts.unusual.join(', ') }}</span>
    </button>
    <span class="steps">
      <button
        v-if="may"
        v-tooltip.bottom="tree.act?.words ? `Undo (u): ${tree.act.words}` : 'Undo (u)'"
        class="press"
        :disabled="!tree.canUndo"
        aria-label="Undo"
        @click="tree.undo()"
      >
        <i class="pi pi-undo" aria-hidden="true"></i>
      </button>
      <button v-if="may" v-tooltip.bottom="'Redo (r)'" class="press wide" :disabled="!tree.canRedo" aria-label="Redo" @click="tree.redo">
        <i class="pi pi-refresh" aria-hidden="true"></i>
      </button>
      <button v-tooltip.bottom="'Keys (?)'" class="press keys wide" aria-label="Keys" @click="$emit('keys')">?</button>
    </span>
    <div v-if="open" id="visit-panel" ref="panel" class="panel over" @keydown.escape.stop="close">
      <div class="narrow does">
        <button v-if="may" class="press" data-walk-narrow @click="((open = false), $emit('walk'))">Key walk</button>
        <RouterLink class="press" :to="{ name: 'story', params: { id: tree.view.tree.id } }">Story</RouterLink>
        <button v-if="may" class="press" :disabled="!tree.canRedo" @click="tree.redo">Redo</button>
        <label
          >Route
          <select v-model="settings.route">
            <option v-for="r in vocabulary.words?.routes" :key="r.id" :value="r.id">{{ r.words }}</option>
          </select>
        </label>
        <label
          >Age
          <select :disabled="!may" :value="facts.age" @change="tree.setFacts({ age: value($event) })">
            <option value="">not judged</option>
            <option v-for="a in vocabulary.words?.ages" :key="a.id" :value="a.id">{{ a.words }}</option>
          </select>
        </label>
      </div>
      <VisitPanel />
      <button class="press quiet" @click="close">Close</button>
    </div>
  </header>
</template>

<style scoped>
.aside {
  display: inline-flex;
  align-items: center;
  min-height: var(--pt-press);
  padding: 0.25rem 0.5rem;
  border-radius: 6px;
  background: var(--pt-straw);
  color: var(--pt-straw-ink);
  font-size: 1rem;
  font-weight: 400;
}

header {
  position: relative;
  display: flex;
  flex-wrap: wrap;
  gap: 0.375rem 0.625rem;
  align-items: center;
  padding: 0.375rem 0.75rem;
  border-bottom: 1px solid var(--pt-line);
}

h1 {
  font-size: 1.25rem;
  margin-right: auto;
}

.stand {
  font-weight: 400;
  font-size: 1rem;
}

.back {
  display: grid;
  place-items: center;
  color: inherit;
  text-decoration: none;
}

label {
  display: flex;
  align-items: center;
  gap: 0.375rem;
  font-size: 0.9375rem;
}

select {
  min-height: var(--pt-press);
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: var(--pt-snow);
  padding: 0 0.5rem;
}

.fold {
  display: flex;
  gap: 0.5rem;
  align-items: center;
}

.steps {
  display: flex;
  gap: 0.25rem;
}

.steps .press:disabled {
  opacity: 0.45;
  cursor: default;
}

.narrow {
  display: none;
}

/* Over the desk, not in its place. */
.over {
  position: absolute;
  inset: 100% 0.5rem auto;
  z-index: 20;
  display: grid;
  gap: 0.5rem;
  justify-items: start;
  max-height: min(70dvh, calc(100dvh - 5rem));
  overflow-y: auto;
  box-shadow: 0 6px 24px rgb(0 0 0 / 25%);
}

.does {
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
}

@media screen and (max-width: 900px) {
  h1 {
    flex: 1 1 4rem;
    font-size: 1.125rem;
    overflow-wrap: anywhere;
  }

  .stand,
  .wide {
    display: none !important;
  }

  i.narrow {
    display: inline;
  }

  .does {
    display: flex;
  }

  .does label {
    flex: 1 1 8rem;
  }

  .does select {
    width: 100%;
  }
}
</style>
