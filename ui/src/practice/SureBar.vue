<script setup lang="ts">
import type { Sure } from './practice'
import { sureness } from './sureness'

/** How sure one is of an answer. */
const sure = defineModel<Sure>({ required: true })
</script>

<template>
  <div class="bar" role="group" aria-label="How sure">
    <button
      v-for="s in sureness"
      :key="s.id"
      type="button"
      class="press"
      :aria-pressed="sure === s.id"
      :title="`Alt ${s.key}`"
      :data-sure="s.id"
      @click="sure = s.id"
    >
      {{ s.words }}
    </button>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}
</style>
