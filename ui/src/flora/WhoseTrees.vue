<script setup lang="ts">
import { computed } from 'vue'
import { amongKey, amongOf, useVocabulary } from '../frame/vocabulary'
import { useFlora } from './flora'

/** Chooses whose trees the pages of the flora are of: a region, or a list of one's own. */
const vocabulary = useVocabulary()
const flora = useFlora()
const chosen = computed({
  get: () => amongKey(flora.among.region ? flora.among : { region: vocabulary.words?.regions?.[0]?.id ?? '' }),
  set: (key) => (flora.among = amongOf(key)),
})
</script>

<template>
  <label
    >Whose
    <select id="among" v-model="chosen">
      <option v-for="a in vocabulary.words?.amongs" :key="amongKey(a)" :value="amongKey(a)">{{ a.words }}</option>
    </select>
  </label>
</template>

<style scoped>
label {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
  min-width: 0;
}

select {
  min-height: var(--pt-press);
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: var(--pt-snow);
  padding: 0 0.75rem;
  max-width: 100%;
}
</style>
