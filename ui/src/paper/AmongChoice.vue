<script setup lang="ts">
import { computed } from 'vue'
import { amongKey, amongOf, useVocabulary, type Among } from '../frame/vocabulary'

/** Of whose trees something is printed: a region, or a list of one's own. */
const vocabulary = useVocabulary()
const among = defineModel<Among>({ required: true })
const chosen = computed({
  get: () => amongKey(among.value.region ? among.value : (vocabulary.words?.amongs?.[0] ?? { region: '' })),
  set: (key) => (among.value = amongOf(key)),
})
</script>

<template>
  <label class="field"
    >Trees of
    <select v-model="chosen" data-among>
      <option v-for="a in vocabulary.words?.amongs" :key="amongKey(a)" :value="amongKey(a)">{{ a.words }}</option>
    </select></label
  >
</template>
