<script setup lang="ts">
import { computed } from 'vue'
import { percent } from '../frame/words'

/** How often what was said with a chance came true: on the line, the chances are honest. */
export interface Said {
  said: number
  p: number
  from: number
  to: number
  n: number
  words?: string
}
const props = defineProps<{ points: Said[]; title: string; across: string; up: string; least?: number }>()
const size = 240
const room = 62
const least = computed(() => props.least ?? 0)
const x = (p: number) => room + ((p - least.value) / (1 - least.value)) * size
const y = (p: number) => 12 + size - ((Math.max(p, least.value) - least.value) / (1 - least.value)) * size
const ticks = computed(() => {
  const step = least.value < 0.5 ? 0.25 : 0.1
  return Array.from({ length: Math.round((1 - least.value) / step) + 1 }, (_, i) => least.value + i * step)
})
const says = computed(() =>
  props.points.map((b) => `${b.words ?? percent(b.said)}: ${percent(b.p)} of ${b.n}, ${percent(b.from)} to ${percent(b.to)}`).join('; '),
)
</script>

<template>
  <svg :viewBox="`0 0 ${size + room + 26} ${size + 60}`" role="img" :aria-label="`${title}. ${says}`" class="curve">
    <g class="grid">
      <template v-for="t in ticks" :key="t">
        <line :x1="room" :x2="room + size" :y1="y(t)" :y2="y(t)" />
        <text :x="room - 6" :y="y(t) + 4" text-anchor="end">{{ percent(t) }}</text>
        <text :x="x(t)" :y="size + 30" text-anchor="middle">{{ percent(t) }}</text>
      </template>
    </g>
    <line class="honest" :x1="x(least)" :y1="y(least)" :x2="x(1)" :y2="y(1)" />
    <g v-for="b in points" :key="b.said" class="point">
      <line :x1="x(b.said)" :x2="x(b.said)" :y1="y(b.from)" :y2="y(b.to)" />
      <circle :cx="x(b.said)" :cy="y(b.p)" :r="4 + Math.min(6, Math.sqrt(b.n) / 2)" />
    </g>
    <text :x="room + size / 2" :y="size + 52" text-anchor="middle">{{ across }}</text>
    <text :transform="`translate(14 ${12 + size / 2}) rotate(-90)`" text-anchor="middle">{{ up }}</text>
  </svg>
</template>

<style scoped>
.curve {
  width: min(100%, 22rem);
  height: auto;
}

text {
  font-size: 12px;
  fill: currentcolor;
}

.grid line {
  stroke: var(--pt-line);
}

.honest {
  stroke: currentcolor;
  stroke-dasharray: 5 4;
}

.point line {
  stroke: var(--pt-spruce);
  stroke-width: 2;
}

.point circle {
  fill: var(--pt-spruce);
}
</style>
