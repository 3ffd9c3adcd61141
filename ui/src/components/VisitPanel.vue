<script setup lang="ts">
import { computed } from 'vue'
import { useDesk } from '../stores/desk'
import { textSizes, themes, useSettings } from '../stores/settings'
import { useTree } from '../stores/tree'
import { plain, regionWord } from '../words'

const desk = useDesk()
const tree = useTree()
const settings = useSettings()
const facts = computed(() => tree.view?.facts)
const beyond = computed(() => facts.value?.out_of_reach ?? [])
const reaches = [{ id: 'hand', label: 'No twig' }, { id: 'crown', label: 'Crown hidden' }, { id: 'ground', label: 'Ground hidden' }]

const value = (e: Event) => (e.target as HTMLSelectElement).value

function toggle(id: string) {
  tree.setFacts({ out_of_reach: beyond.value.includes(id) ? beyond.value.filter((b) => b !== id) : [...beyond.value, id] })
}
</script>

<template>
  <div v-if="facts && tree.view" class="visit">
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
    <label>Light
      <select id="light" :value="facts.light" @change="tree.setFacts({ light: value($event) as 'good' | 'poor' })">
        <option value="good">good</option>
        <option value="poor">poor</option>
      </select>
    </label>
    <label>Among
      <select id="pool" :value="facts.region || tree.view.tree.region" @change="tree.setFacts({ region: value($event) })">
        <option v-for="p in desk.desk?.pools" :key="p" :value="p">{{ regionWord(p) }}</option>
      </select>
    </label>
    <div class="row" role="group" aria-label="Out of reach">
      <button v-for="r in reaches" :key="r.id" class="press reach" :data-reach="r.id" :aria-pressed="beyond.includes(r.id)" @click="toggle(r.id)">{{ r.label }}</button>
      <button class="press reach" :aria-pressed="facts.flat" title="Take every listed tree as equally common" @click="tree.setFacts({ flat: !facts.flat })">All as common</button>
    </div>
    <label>Colours
      <select id="theme" v-model="settings.theme"><option v-for="t in themes" :key="t.id" :value="t.id">{{ t.label }}</option></select>
    </label>
    <label>Text
      <select id="text" v-model.number="settings.text"><option v-for="t in textSizes" :key="t" :value="t">{{ t }} %</option></select>
    </label>
  </div>
</template>

<style scoped>
.visit {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 0.75rem;
  flex-basis: 100%;
  padding-top: 0.25rem;
  border-top: 1px solid var(--pt-line);
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
