<script setup lang="ts">
import { computed, ref } from 'vue'
import { useDesk } from '../stores/desk'
import { useTree } from '../stores/tree'
import { plain, regionWord } from '../words'

const desk = useDesk()
const tree = useTree()
const facts = computed(() => tree.view?.facts)
const noTwig = computed(() => facts.value?.out_of_reach?.includes('hand') ?? false)

const showFacts = ref(false) // on a phone the facts of the visit are folded away

function value(e: Event): string {
  return (e.target as HTMLSelectElement).value
}
</script>

<template>
  <header v-if="tree.view && facts">
    <RouterLink class="press back" to="/" aria-label="All trees"><i class="pi pi-arrow-left" aria-hidden="true"></i></RouterLink>
    <h1>{{ tree.view.tree.tag }} <span class="soft place">{{ tree.view.tree.stand }}</span></h1>
    <button class="press fold" :aria-expanded="showFacts" @click="showFacts = !showFacts">Age, snow</button>
    <div class="facts" :class="{ shown: showFacts }">
    <label>Age
      <select id="age" :value="facts.age" @change="tree.setFacts({ age: value($event) })">
        <option value="">not judged</option>
        <option v-for="a in desk.desk?.ages" :key="a" :value="a">{{ a }}</option>
      </select>
    </label>
    <label>Green
      <select id="foliage" :value="facts.foliage" @change="tree.setFacts({ foliage: value($event) })">
        <option v-for="f in desk.desk?.foliages" :key="f" :value="f">{{ plain(f) }}</option>
      </select>
    </label>
    <label>Snow
      <select id="snow" :value="facts.snow" @change="tree.setFacts({ snow: value($event) })">
        <option v-for="s in desk.desk?.snows" :key="s" :value="s">{{ s }}</option>
      </select>
    </label>
    <label>Among
      <select id="pool" :value="facts.region || tree.view.tree.region" @change="tree.setFacts({ region: value($event) })">
        <option v-for="p in desk.desk?.pools" :key="p" :value="p">{{ regionWord(p) }}</option>
      </select>
    </label>
    <button class="press reach" :aria-pressed="noTwig" @click="tree.setFacts({ out_of_reach: noTwig ? [] : ['hand'] })">
      No twig in reach
    </button>
    </div>
    <p v-if="tree.offline" class="unsent" role="status">
      No connection. {{ tree.waiting }} {{ tree.waiting === 1 ? 'entry is' : 'entries are' }} kept here and will be sent.
    </p>
  </header>
</template>

<style scoped>
header {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 0.75rem;
  align-items: center;
  padding: 0.375rem 0.75rem;
  border-bottom: 1px solid var(--pt-line);
}

h1 {
  font-size: 1.25rem;
  margin-right: auto;
}

.place {
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

.facts {
  display: contents;
}

.fold {
  display: none;
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
    font-size: 1.125rem;
  }

  .fold {
    display: block;
  }

  .facts {
    display: none;
    flex-basis: 100%;
    gap: 0.5rem;
  }

  .facts.shown {
    display: flex;
  }

  label {
    flex: 1 1 5rem;
    flex-direction: column;
    align-items: stretch;
    gap: 0;
    font-size: 0.8125rem;
  }

  .reach {
    align-self: end;
    font-size: 0.875rem;
    padding-inline: 0.375rem;
    max-width: 5.5rem;
    line-height: 1.1;
  }
}
</style>
