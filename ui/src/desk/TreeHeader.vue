<script setup lang="ts">
import { computed, ref } from 'vue'
import { noConnection } from '../frame/ask'
import { useVocabulary } from '../frame/vocabulary'
import { useSettings } from '../frame/settings'
import { useTree } from './tree'
import VisitPanel from './VisitPanel.vue'

defineEmits<{ keys: []; walk: [] }>()
const vocabulary = useVocabulary()
const tree = useTree()
const settings = useSettings()
const facts = computed(() => tree.view?.facts)
const open = ref(false)

const value = (e: Event) => (e.target as HTMLSelectElement).value
</script>

<template>
  <header v-if="tree.view && facts">
    <RouterLink class="press back" to="/" aria-label="All trees"><i class="pi pi-arrow-left" aria-hidden="true"></i></RouterLink>
    <h1>
      {{ tree.view.tree.tag }} <span class="soft stand">{{ tree.view.tree.stand }}</span>
    </h1>
    <label class="route"
      ><span class="what">Route</span>
      <select id="route" v-model="settings.route" aria-label="Route">
        <option v-for="r in vocabulary.words?.routes" :key="r.id" :value="r.id">{{ r.words }}</option>
      </select>
    </label>
    <label
      ><span class="what">Age</span>
      <select id="age" aria-label="Age" :value="facts.age" @change="tree.setFacts({ age: value($event) })">
        <option value="">not judged</option>
        <option v-for="a in vocabulary.words?.ages" :key="a.id" :value="a.id">{{ a.words }}</option>
      </select>
    </label>
    <button class="press" data-walk @click="$emit('walk')">Key walk</button>
    <RouterLink class="press fold story" :to="{ name: 'story', params: { id: tree.view.tree.id } }">Story</RouterLink>
    <button id="visit" class="press fold" :aria-expanded="open" @click="open = !open">
      Visit<span v-if="facts.unusual?.length" class="soft small">{{ facts.unusual.join(', ') }}</span>
    </button>
    <span class="steps">
      <button
        v-tooltip.bottom="tree.act?.words ? `Undo (u): ${tree.act.words}` : 'Undo (u)'"
        class="press"
        :disabled="!tree.canUndo"
        aria-label="Undo"
        @click="tree.undo"
      >
        <i class="pi pi-undo" aria-hidden="true"></i>
      </button>
      <button v-tooltip.bottom="'Redo (r)'" class="press" :disabled="!tree.canRedo" aria-label="Redo" @click="tree.redo">
        <i class="pi pi-refresh" aria-hidden="true"></i>
      </button>
      <button v-tooltip.bottom="'Keys (?)'" class="press keys" aria-label="Keys" @click="$emit('keys')">?</button>
    </span>
    <VisitPanel v-if="open" />
    <p v-if="tree.offline" class="unsent" role="status">
      {{ noConnection }} {{ tree.waiting }} {{ tree.waiting === 1 ? 'entry is' : 'entries are' }} kept here and will be sent.
    </p>
  </header>
</template>

<style scoped>
header {
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

.unsent {
  flex-basis: 100%;
  padding: 0.25rem 0.75rem;
  border-radius: 6px;
  background: var(--pt-straw);
  color: var(--pt-straw-ink);
}

@media (max-width: 900px) {
  h1 {
    flex: 1 1 calc(100% - 17rem);
    font-size: 1.125rem;
    white-space: nowrap;
  }

  .steps,
  .story {
    order: -1;
  }

  .back,
  h1 {
    order: -2;
  }

  .stand,
  .keys,
  .what {
    display: none;
  }

  label {
    flex: 1 1 4rem;
  }

  label:first-of-type {
    /* the longest words */
    flex: 1 1 8rem;
  }

  select {
    width: 100%;
    padding: 0 0.125rem;
  }

  .press {
    padding: 0 0.5rem;
  }
}
</style>
