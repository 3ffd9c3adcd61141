<script setup lang="ts">
import { computed } from 'vue'
import type { Character, Score, ScoreView } from '../api/client'
import StateTiles from './StateTiles.vue'

const props = defineProps<{ character: Character; score?: ScoreView }>()
const emit = defineEmits<{ score: [s: Partial<Score>] }>()
const pairs = computed(() => props.score?.pairs ?? 0)
const nodes = computed(() => props.score?.nodes ?? 0)

function count(pair: number, node: number) {
  const n = nodes.value + node
  if (n > 0) emit('score', { pairs: Math.max(0, pairs.value + pair), nodes: n })
}

function back() {
  if (nodes.value > 1) count(pairs.value === nodes.value ? -1 : 0, -1)
}
</script>

<template>
  <div class="pad">
    <button class="press big" data-tally="pair" @click="count(1, 1)">Pair</button>
    <button class="press big" data-tally="single" @click="count(0, 1)">Single</button>
    <p class="sum" aria-live="polite">
      <strong>{{ pairs }}</strong> {{ pairs === 1 ? 'pair' : 'pairs' }} in <strong>{{ nodes }}</strong> {{ nodes === 1 ? 'node' : 'nodes' }}
    </p>
    <button v-if="nodes > 1" class="press quiet" @click="back">One back</button>
  </div>
  <details>
    <summary class="small soft">Or claim it without counting</summary>
    <StateTiles :character="character" :score="score" @score="(s) => emit('score', s)" />
  </details>
</template>

<style scoped>
.pad {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
}

.big {
  min-width: 7rem;
  min-height: 64px;
  font-size: 1.125rem;
  font-weight: 600;
}

summary {
  min-height: var(--pt-press);
  align-content: center;
  cursor: pointer;
}
</style>
