<script setup lang="ts">
import { computed } from 'vue'
import type { Character, Score, ScoreView } from '../api/client'
import { count } from '../frame/words'
import StateTiles from './StateTiles.vue'

const props = defineProps<{ character: Character; score?: ScoreView }>()
const emit = defineEmits<{ score: [s: Partial<Score>]; back: [] }>()
const pairs = computed(() => props.score?.pairs ?? 0)
const nodes = computed(() => props.score?.nodes ?? 0)

function tally(pair: number, node: number) {
  const n = nodes.value + node
  emit('score', { pairs: pairs.value + pair, nodes: n })
}
</script>

<template>
  <div class="pad">
    <button class="press big" data-tally="pair" @click="tally(1, 1)">Pair</button>
    <button class="press big" data-tally="single" @click="tally(0, 1)">Single</button>
    <p class="sum" aria-live="polite">
      <template v-if="nodes"
        ><strong>{{ count(pairs, 'pair') }}</strong> in <strong>{{ count(nodes, 'node') }}</strong></template
      >
      <span v-else class="soft">Nothing counted yet</span>
    </p>
    <button v-if="nodes" class="press quiet" data-tally="back" @click="emit('back')">One back</button>
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
