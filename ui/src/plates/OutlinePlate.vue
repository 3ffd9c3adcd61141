<script setup lang="ts">
import { computed } from 'vue'
import { stroke } from './strokes'
import type { Shows } from './shows'

const props = defineProps<{ shows: Shows; label: string; marked?: string[] }>()
const state = (id: string) => props.shows.get(id)?.state ?? ''
const low = computed(() => ['shrub-clump', 'thicket', 'vine', 'forked-low', 'many-stemmed-tree'].includes(state('form.habit')))
const paths = computed(() =>
  [
    { id: 'form.habit', d: low.value ? stroke('form.habit', state('form.habit')) : undefined },
    { id: 'form.crown', d: low.value ? undefined : stroke('form.crown', state('form.crown')) },
    { id: 'form.limbs', d: low.value ? undefined : stroke('form.limbs', state('form.limbs')) },
  ].filter((p) => p.d),
)
</script>

<template>
  <svg viewBox="0 0 48 48" role="img" :aria-label="label">
    <path
      v-for="p in paths"
      :key="p.id"
      :d="p.d"
      :transform="p.id === 'form.limbs' ? 'translate(6 5) scale(0.75)' : undefined"
      :class="[p.id.replace('.', '-'), { marked: marked?.includes(p.id) }]"
    />
    <path v-if="!paths.length" class="unknown" d="M23 46V34M26 46V34M9 20a15 15 0 1 0 30 0a15 15 0 1 0 -30 0" />
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  height: auto;
  max-height: 9rem;
}

path {
  fill: none;
  stroke: var(--pt-bark);
  stroke-width: 1.6;
  stroke-linecap: round;
  stroke-linejoin: round;
}

.form-limbs {
  stroke-width: 0.8;
}

.unknown {
  opacity: 0.4;
  stroke-dasharray: 2 2;
}

.marked {
  stroke: var(--pt-sumac);
}
</style>
