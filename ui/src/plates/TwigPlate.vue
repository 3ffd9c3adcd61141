<script setup lang="ts">
import { computed } from 'vue'
import type { Shows } from './shows'
import { box, lens, twigParts } from './twig'

const props = defineProps<{ shows: Shows; label: string; marked?: string[] }>()
const parts = computed(() => twigParts(props.shows))
const view = `${box.left} ${box.top} ${box.width} ${box.height}`
const hasScar = computed(() => props.shows.has('scar.shape') || props.shows.has('scar.bundles'))
const hasPith = computed(() => props.shows.has('twig.pith'))
</script>

<template>
  <svg class="plate" :viewBox="view" role="img" :aria-label="label">
    <circle v-if="hasScar" class="lens" :cx="lens.scar.x" :cy="lens.scar.y" r="10.2" />
    <circle v-if="hasPith" class="lens" :cx="lens.pith.x" :cy="lens.pith.y" r="10.2" />
    <path
      v-for="(p, i) in parts"
      :key="i"
      :d="p.d"
      :class="[p.of, { faint: p.faint, thin: p.thin, marked: marked?.includes(p.character) }]"
      :style="{ fill: p.faint ? undefined : p.fill, strokeWidth: p.pen }"
    />
    <g class="scale">
      <path d="M-18 77H-8M-18 75.8V78.2M-8 75.8V78.2" />
      <text x="-13" y="75">10 mm</text>
    </g>
  </svg>
</template>

<style scoped>
.plate {
  width: 100%;
  height: auto;
  max-height: 24rem;
}

path {
  fill: none;
  stroke: var(--pt-ink);
  stroke-width: 0.45;
  stroke-linejoin: round;
  stroke-linecap: round;
}

.twig,
.end-bud,
.side-bud {
  fill: var(--pt-bark-pale);
}

.needle {
  stroke: var(--pt-spruce);
}

.arm {
  fill: var(--pt-bark);
}

.scar {
  fill: var(--pt-paper);
}

.thin {
  stroke-width: 0.28;
}

.faint {
  opacity: 0.4;
  stroke-dasharray: 1.2 1;
  fill: none;
}

.marked:not(.scale, .trace) {
  stroke: var(--pt-sumac);
  stroke-width: 0.6;
}

.lens {
  fill: none;
  stroke: var(--pt-line);
  stroke-width: 0.4;
}

.scale path {
  stroke: var(--pt-soft);
}

.scale text {
  font-size: 3.4px;
  text-anchor: middle;
  fill: var(--pt-soft);
}
</style>
