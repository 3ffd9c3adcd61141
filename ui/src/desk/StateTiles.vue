<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Character, Score, ScoreView } from '../api/client'
import { useVocabulary } from '../frame/vocabulary'
import { useTree } from './tree'
import StateDrawing from '../plates/StateDrawing.vue'

const props = defineProps<{ character: Character; score?: ScoreView }>()
const emit = defineEmits<{ score: [s: Partial<Score>] }>()
const vocabulary = useVocabulary()
const tree = useTree()
const either = ref((props.score?.states?.length ?? 0) > 1)
watch(
  () => props.score?.states?.length ?? 0,
  (n) => (either.value = n > 1 || (either.value && n > 0)),
)
/** What a state means, where its name does not say it. */
const means = (s: { words: string; means: string }) => (s.means.toLowerCase() === s.words.toLowerCase() ? '' : s.means)
const chosen = computed(() => props.score?.states ?? [])
const certainties = computed(() => (vocabulary.words?.certainties ?? []).map((c) => c.id))

/** One press scores as surely as the light lets one; another on the same tile lowers the certainty by a step. */
function press(id: string) {
  const others = chosen.value.filter((s) => s !== id)
  if (either.value) {
    const states = others.length < chosen.value.length ? others : [...chosen.value, id]
    if (states.length > 0) emit('score', { states, certainty: props.score?.certainty ?? certainties.value[0] })
    return
  }
  const again = chosen.value.length === 1 && chosen.value[0] === id
  const next = certainties.value[(certainties.value.indexOf(props.score?.certainty ?? 'fair') + 1) % certainties.value.length]
  emit('score', { states: [id], certainty: again ? next : tree.view?.offer.certainty })
}
</script>

<template>
  <div class="tiles">
    <button
      v-for="s in character.states"
      :key="s.id"
      class="press tile"
      :aria-pressed="chosen.includes(s.id)"
      :data-state="s.id"
      @click="press(s.id)"
    >
      <StateDrawing :character="character.id" :state="s.id" />
      <span class="text">
        <span>{{ s.words }}</span>
        <span v-if="means(s)" class="means soft">{{ means(s) }}</span>
      </span>
    </button>
    <button v-if="(character.states?.length ?? 0) > 2" class="press either" data-either :aria-pressed="either" @click="either = !either">
      <span class="text"><span>Either</span><span class="means soft">keep two or more</span></span>
    </button>
  </div>
</template>

<style scoped>
.tiles {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(9.5rem, 100%), 1fr));
  gap: 0.375rem;
}

.tile,
.either {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  padding: 0.375rem 0.5rem;
  text-align: left;
  line-height: 1.15;
}

/* The words wrap first. Beside a single long one the drawing gets narrower. */
.tile :deep(img) {
  flex: 0 1 auto;
  min-width: 2.25rem;
  object-fit: contain;
}

.text {
  display: grid;
  flex-shrink: 1000;
}

.means {
  font-size: 0.8125rem;
  font-weight: 400;
}

.either {
  border-style: dashed;
}
</style>
