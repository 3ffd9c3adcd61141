<script setup lang="ts">
import { computed } from 'vue'
import { fill } from './colors'
import { stroke } from './strokes'
import type { Shows } from './shows'

const props = defineProps<{ shows: Shows; label: string; marked?: string[] }>()
const texture = computed(() => stroke('bark.texture', props.shows.get('bark.texture')?.state ?? ''))
const ground = computed(() => fill(props.shows.get('bark.color')?.state))
/** Deeper furrows are drawn with a broader pen: 1 at 2 mm, 4 at 30 mm. */
const depth = computed(() => 1 + Math.min(3, Math.log2(1 + (props.shows.get('bark.furrow-depth')?.value ?? 3) / 4)))
const extras = computed(() =>
  ['bark.stripes', 'bark.pale-runs', 'bark.speckles', 'bark.rings-target', 'bark.burrs']
    .filter((id) => props.shows.get(id)?.seen)
    .map((id) => stroke(id, 'seen')),
)
const odd = computed(() => props.marked?.some((m) => m.startsWith('bark.')))
</script>

<template>
  <svg viewBox="0 0 48 48" role="img" :aria-label="label" :class="{ odd }">
    <rect width="48" height="48" rx="3" :fill="ground ?? 'none'" :class="{ faint: !ground }" />
    <path v-if="texture" :d="texture" :style="{ strokeWidth: depth }" />
    <path v-for="(e, i) in extras" :key="i" :d="e" class="extra" />
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  height: auto;
  max-height: 9rem;
}

rect {
  stroke: var(--pt-line);
  stroke-width: 0.6;
}

.odd rect {
  stroke: var(--pt-sumac);
  stroke-width: 2;
}

.faint {
  stroke-dasharray: 2 2;
}

path {
  fill: none;
  stroke: #1a1512;
  stroke-opacity: 0.75;
  stroke-linecap: round;
}

.extra {
  stroke: #fffdf8;
  stroke-opacity: 0.8;
  stroke-width: 1.2;
}
</style>
