<script setup lang="ts">
import { computed } from 'vue'
import OutsideNow from '../day/OutsideNow.vue'
import { useSession } from '../frame/session'
import { amongKey, amongOf, useVocabulary } from '../frame/vocabulary'
import { useTree } from './tree'

const vocabulary = useVocabulary()
const tree = useTree()
const session = useSession()
const facts = computed(() => tree.view?.facts)
const beyond = computed(() => facts.value?.out_of_reach ?? [])
const among = computed(() => (facts.value ? amongKey(facts.value.among) : ''))

const value = (e: Event) => (e.target as HTMLSelectElement).value

const use = (field: 'snow' | 'light', to: string) => tree.setFacts({ [field]: to })

function toggle(id: string) {
  tree.setFacts({ out_of_reach: beyond.value.includes(id) ? beyond.value.filter((b) => b !== id) : [...beyond.value, id] })
}
</script>

<template>
  <fieldset v-if="facts && tree.view" class="visit" :disabled="!session.may('observer')">
    <label
      >Green
      <select id="foliage" :value="facts.foliage" @change="tree.setFacts({ foliage: value($event) })">
        <option v-for="f in vocabulary.words?.foliages" :key="f.id" :value="f.id">{{ f.words }}</option>
      </select>
    </label>
    <label
      >Snow
      <select id="snow" :value="facts.snow" @change="tree.setFacts({ snow: value($event) })">
        <option v-for="s in vocabulary.words?.snows" :key="s.id" :value="s.id">{{ s.words }}</option>
      </select>
    </label>
    <label
      >Light
      <select id="light" :value="facts.light" @change="tree.setFacts({ light: value($event) as 'good' | 'poor' })">
        <option v-for="l in vocabulary.words?.lights" :key="l.id" :value="l.id">{{ l.words }}</option>
      </select>
    </label>
    <label
      >Among
      <select id="among" :value="among" @change="tree.setFacts({ among: amongOf(value($event)) })">
        <option v-for="a in vocabulary.words?.amongs" :key="amongKey(a)" :value="amongKey(a)">{{ a.words }}</option>
      </select>
    </label>
    <OutsideNow :is="{ snow: facts.snow, light: facts.light }" @use="use" />
    <div class="row" role="group" aria-label="Out of reach">
      <button
        v-for="r in vocabulary.words?.beyonds"
        :key="r.id"
        class="press reach"
        :data-reach="r.id"
        :aria-pressed="beyond.includes(r.id)"
        @click="toggle(r.id)"
      >
        {{ r.words }}
      </button>
      <button
        v-tooltip.bottom="'Take every listed tree as equally common'"
        class="press reach"
        :aria-pressed="facts.flat"
        @click="tree.setFacts({ flat: !facts.flat })"
      >
        All as common
      </button>
    </div>
  </fieldset>
</template>

<style scoped>
.visit {
  border: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 0.75rem;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem;
}

label {
  display: flex;
  align-items: center;
  gap: 0.375rem;
  font-size: 0.9375rem;
}

select {
  min-height: var(--pt-press);
  max-width: 12rem;
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: var(--pt-snow);
  padding: 0 0.5rem;
}
</style>
