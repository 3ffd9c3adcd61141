<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'

/** The way of a crew, from above; north is up. */
const props = defineProps<{ crew: Schemas['CrewDay']; from: number[] }>()
const places = computed(() => (props.crew.stops ?? []).map((s) => [s.lon!, s.lat!] as const))
const all = computed(() => [[props.from[0]!, props.from[1]!] as const, ...places.value])
const box = computed(() => {
  const lon = all.value.map((p) => p[0])
  const lat = all.value.map((p) => p[1])
  const wide = Math.cos(((lat[0] ?? 0) * Math.PI) / 180)
  const size = Math.max((Math.max(...lon) - Math.min(...lon)) * wide, Math.max(...lat) - Math.min(...lat), 1e-4)
  return { west: Math.min(...lon), north: Math.max(...lat), wide, size }
})
const x = (p: readonly [number, number]) => 6 + ((p[0] - box.value.west) * box.value.wide * 88) / box.value.size
const y = (p: readonly [number, number]) => 6 + ((box.value.north - p[1]) * 88) / box.value.size
const way = computed(() => [...all.value, all.value[0]!].map((p) => `${x(p).toFixed(1)},${y(p).toFixed(1)}`).join(' '))
</script>

<template>
  <svg viewBox="0 0 100 100" role="img" :aria-label="`The way past ${places.length} trees; north is up`">
    <polyline :points="way" />
    <rect :x="x(all[0]!) - 2" :y="y(all[0]!) - 2" width="4" height="4" />
    <g v-for="(p, i) in places" :key="i">
      <circle :cx="x(p)" :cy="y(p)" r="2.6" />
      <text :x="x(p)" :y="y(p) + 1" text-anchor="middle">{{ i + 1 }}</text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 30rem;
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: var(--pt-snow);
}

polyline {
  fill: none;
  stroke: var(--pt-spruce);
  stroke-width: 0.6;
  stroke-dasharray: 1.5 1;
}

circle {
  fill: var(--pt-snow);
  stroke: var(--pt-spruce);
  stroke-width: 0.5;
}

rect {
  fill: currentcolor;
}

text {
  font-size: 2.8px;
  fill: currentcolor;
}
</style>
