<script setup lang="ts">
import { defineAsyncComponent, ref } from 'vue'
import PageFrame from '../frame/PageFrame.vue'
import { textSizes, themes, useSettings } from '../frame/settings'
import NameBars from './NameBars.vue'
import NameInstruments from '../instruments/NameInstruments.vue'
import { isAway } from '../woods/device'
import { useVocabulary } from '../frame/vocabulary'

const GaugeDialog = defineAsyncComponent(() => import('../desk/GaugeDialog.vue'))
const settings = useSettings()
const vocabulary = useVocabulary()
const gauge = ref(false)
</script>

<template>
  <PageFrame title="Settings" hint="How you like to work on this device; they are kept in this browser">
    <section class="panel" aria-label="How it looks">
      <h2>How it looks</h2>
      <div class="choice" role="group" aria-label="Colors">
        <strong>Colors</strong>
        <button
          v-for="t in themes"
          :key="t.id"
          class="press"
          :data-theme-choice="t.id"
          :aria-pressed="settings.theme === t.id"
          @click="settings.theme = t.id"
        >
          {{ t.label }}
        </button>
      </div>
      <div class="choice" role="group" aria-label="Size of text">
        <strong>Text</strong>
        <button
          v-for="t in textSizes"
          :key="t"
          class="press"
          :data-text-size="t"
          :aria-pressed="settings.text === t"
          @click="settings.text = t"
        >
          {{ t }} %
        </button>
      </div>
    </section>
    <section class="panel" aria-label="How you work">
      <h2>How you work</h2>
      <label class="field"
        >Route: the order in which looks and parts are offered
        <select v-model="settings.route" data-route>
          <option v-for="r in vocabulary.words?.routes" :key="r.id" :value="r.id">{{ r.words }}</option>
        </select>
      </label>
      <p>
        <button class="press" data-gauge @click="gauge = true">Measure this screen</button>
        <span class="soft small">{{
          settings.pixelsPerMm ? 'Measured: the gauge is true to scale here.' : 'Not measured yet: the gauge asks before it is used.'
        }}</span>
      </p>
    </section>
    <NameBars />
    <NameInstruments v-if="!isAway()" />
    <GaugeDialog v-if="gauge" only-screen @close="gauge = false" />
  </PageFrame>
</template>

<style scoped>
:deep(.panel) {
  display: grid;
  gap: 0.75rem;
}

:deep(h2) {
  font-size: 1.125rem;
}

:deep(.choice) {
  display: flex;
  flex-wrap: wrap;
  gap: 0.375rem;
  align-items: center;
}

:deep(.choice strong) {
  flex-basis: 5rem;
}

.field {
  max-width: 28rem;
}
</style>
