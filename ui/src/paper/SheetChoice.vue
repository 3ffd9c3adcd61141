<script setup lang="ts">
import { useVocabulary } from '../frame/vocabulary'
import AmongChoice from './AmongChoice.vue'
import { rooms, type SheetAsked } from './sheet'

/** Which tally sheet: its list, its order, and how many trees stand on it. */
const vocabulary = useVocabulary()
const asked = defineModel<SheetAsked>({ required: true })
</script>

<template>
  <AmongChoice v-model="asked.among" />
  <label class="field"
    >In the order of
    <select v-model="asked.route" data-route>
      <option v-for="r in vocabulary.words?.routes" :key="r.id" :value="r.id">{{ r.words }}</option>
    </select></label
  >
  <label class="field"
    >Trees on a sheet
    <select v-model.number="asked.trees" data-room>
      <option v-for="n in rooms" :key="n">{{ n }}</option>
    </select></label
  >
</template>
