<script setup lang="ts">
import { percent } from '../frame/words'
import { usePractice } from './practice'

/** How somebody wants to be asked. */
const practice = usePractice()
</script>

<template>
  <details class="panel">
    <summary>How you want to be asked</summary>
    <label class="field" for="practice-new"
      >New cards a day <input id="practice-new" v-model.number="practice.fresh" type="number" min="0" max="1000"
    /></label>
    <label class="field" for="practice-wanted"
      >A card is due when it is known in
      <select id="practice-wanted" v-model.number="practice.wanted">
        <option v-for="w in [0.8, 0.85, 0.9, 0.95]" :key="w" :value="w">{{ percent(w) }} of cases</option>
      </select></label
    >
    <label class="check"
      ><input v-model="practice.tillSure" type="checkbox" data-till-sure /> Till sure: what was asked today comes back until it was right
      twice running</label
    >
  </details>
</template>

<style scoped>
details[open] {
  display: grid;
  gap: 0.75rem;
}

summary {
  min-height: var(--pt-press);
  display: flex;
  align-items: center;
}
</style>
