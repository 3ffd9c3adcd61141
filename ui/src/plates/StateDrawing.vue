<script setup lang="ts">
import { computed } from 'vue'
import { swatch } from './colors'
import { stroke } from './strokes'

const props = defineProps<{ character: string; state: string }>()
const path = computed(() => stroke(props.character, props.state))
const colors = computed(() => swatch(props.character, props.state))
</script>

<template>
  <svg v-if="path" class="pen" viewBox="0 0 48 48" aria-hidden="true"><path :d="path" /></svg>
  <svg v-else-if="colors.length" class="chip" viewBox="0 0 32 32" aria-hidden="true">
    <rect width="32" height="32" rx="5" :fill="colors[0]" />
    <path v-if="colors[1]" d="M0 20Q16 10 32 20V27a5 5 0 0 1 -5 5H5a5 5 0 0 1 -5 -5Z" :fill="colors[1]" />
  </svg>
</template>

<style scoped>
.pen {
  width: 48px;
  height: 48px;
  flex: none;
}

.pen path {
  fill: none;
  stroke: var(--pt-bark);
  stroke-width: 2;
  stroke-linecap: round;
  stroke-linejoin: round;
}

.chip {
  width: 32px;
  height: 32px;
  flex: none;
}

.chip rect {
  stroke: var(--pt-line);
}
</style>
