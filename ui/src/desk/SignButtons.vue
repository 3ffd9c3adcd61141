<script setup lang="ts">
import { computed } from 'vue'
import type { Score, ScoreView } from '../api/client'
import { useVocabulary } from '../frame/vocabulary'
import { useTree } from './tree'
import { capital } from '../frame/words'
import StateDrawing from '../plates/StateDrawing.vue'

const props = defineProps<{ character: string; score?: ScoreView }>()
const emit = defineEmits<{ score: [s: Partial<Score>] }>()
const vocabulary = useVocabulary()
const tree = useTree()
const visibility = computed(() => props.score?.visibility ?? tree.view?.offer.visibility)
</script>

<template>
  <div class="row">
    <button class="press" :aria-pressed="score?.seen === true" data-seen="true" @click="emit('score', { seen: true, visibility })">
      <StateDrawing :character="character" state="seen" /> Seen
    </button>
    <button class="press" :aria-pressed="score?.seen === false" data-seen="false" @click="emit('score', { seen: false, visibility })">
      {{ capital(vocabulary.words?.not_seen ?? '') }}
    </button>
    <span v-if="score" class="view" role="group" aria-label="How well it could be seen">
      <button
        v-for="v in vocabulary.words?.visibilities"
        :key="v.id"
        class="press quiet"
        :aria-pressed="visibility === v.id"
        @click="emit('score', { seen: score.seen, visibility: v.id })"
      >
        {{ v.words }}
      </button>
    </span>
  </div>
</template>

<style scoped>
.row,
.view {
  display: flex;
  flex-wrap: wrap;
  gap: 0.375rem;
}

.row > .press:first-child {
  display: flex;
  gap: 0.375rem;
  align-items: center;
}

.view {
  margin-left: auto;
  font-size: 0.875rem;
}
</style>
