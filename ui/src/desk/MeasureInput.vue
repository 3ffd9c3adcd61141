<script setup lang="ts">
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import type { Character, Score, ScoreView } from '../api/client'
import { useVocabulary } from '../frame/vocabulary'
import { useTree } from './tree'

const GaugeDialog = defineAsyncComponent(() => import('./GaugeDialog.vue'))

const props = defineProps<{ character: Character; score?: ScoreView }>()
const emit = defineEmits<{ score: [s: Partial<Score>] }>()
const vocabulary = useVocabulary()
const tree = useTree()
const text = ref('')
const unit = ref(props.character.unit)
const how = ref('ruler')
const writing = ref(false) // what is being written is not written over
const gauge = ref(false)
const wrong = computed(() => (tree.rejected?.character === props.character.id ? tree.rejected.lines : []))

const kept = computed(() => props.score?.typed || (props.score?.value === undefined ? '' : String(props.score.value)))
watch(
  [kept, () => props.score?.unit, () => props.score?.how],
  () => {
    if (writing.value || !props.score) return
    text.value = kept.value
    unit.value = props.score.unit || props.character.unit
    how.value = props.score.how || 'ruler'
  },
  { immediate: true },
)

/** Sends what was written as it is: the book reads it, and says what it understood. */
function keep() {
  writing.value = false
  const written = text.value.trim()
  const own = unit.value === props.character.unit
  const same =
    written === kept.value && unit.value === (props.score?.unit || props.character.unit) && how.value === (props.score?.how || 'ruler')
  if (!written || same) return
  emit('score', {
    typed: written,
    how: how.value,
    ...(own ? {} : { unit: unit.value }),
    ...(props.score?.certainty ? { certainty: props.score.certainty } : {}),
  })
}

function measured(mm: number) {
  gauge.value = false
  text.value = `${mm} mm`
  how.value = 'ruler'
  keep()
}
</script>

<template>
  <form class="row" @submit.prevent="keep">
    <label class="sr-only" :for="`value-${character.id}`">{{ character.name }}, in {{ unit }}</label>
    <input
      :id="`value-${character.id}`"
      v-model="text"
      class="press number"
      autocomplete="off"
      placeholder="6.5"
      :aria-invalid="wrong.length > 0"
      :aria-describedby="`said-${character.id}`"
      @focus="writing = true"
      @blur="keep"
    />
    <select v-if="character.length" v-model="unit" class="press" aria-label="Unit" @change="keep">
      <option v-for="u in vocabulary.words?.units" :key="u">{{ u }}</option>
    </select>
    <span v-else>{{ character.unit }}</span>
    <select v-model="how" class="press" aria-label="Measured with" @change="keep">
      <option v-for="h in vocabulary.words?.hows" :key="h.id" :value="h.id">{{ h.words }}</option>
    </select>
    <button class="press" type="submit">Keep</button>
    <button v-if="character.gauge" class="press quiet" type="button" data-gauge @click="gauge = true">Gauge</button>
    <p :id="`said-${character.id}`" class="small said" role="status">
      <span v-if="!wrong.length && score" class="soft">{{ score.words }}</span>
      <span v-for="w in wrong" :key="w" class="wrong">Not kept: {{ w }} </span>
    </p>
    <GaugeDialog v-if="gauge" @close="gauge = false" @measured="measured" />
  </form>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.375rem;
  align-items: center;
}

.number {
  width: 8rem;
  text-align: right;
  cursor: text;
}

.said {
  flex-basis: 100%;
}
</style>
