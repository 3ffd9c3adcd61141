<script setup lang="ts">
import { useDocumentVisibility } from '@vueuse/core'
import { computed, defineAsyncComponent, onBeforeUnmount, ref, watch } from 'vue'
import type { Character, Score, ScoreView } from '../api/client'
import { useVocabulary } from '../frame/vocabulary'
import OfferedReading from '../instruments/OfferedReading.vue'
import type { Reading } from '../instruments/instruments'
import { useTree } from './tree'

const GaugeDialog = defineAsyncComponent(() => import('./GaugeDialog.vue'))

const props = defineProps<{ character: Character; score?: ScoreView }>()
const emit = defineEmits<{ score: [s: Partial<Score>, instrument?: string]; withdraw: [] }>()
const vocabulary = useVocabulary()
const tree = useTree()
const form = ref<HTMLElement>()
const text = ref('')
const unit = ref(props.character.unit)
const how = ref('ruler')
const editing = ref(false) // what is being written is not written over
const gone = ref(false)
const gauge = ref(false)
const hows = computed(() => vocabulary.words?.hows?.filter((h) => h.id !== 'caliper' || props.character.caliper || how.value === h.id))
const wrong = computed(() => (tree.rejected?.character === props.character.id ? tree.rejected.lines : []))

const kept = computed(() => props.score?.typed || (props.score?.value === undefined ? '' : String(props.score.value)))
const keptUnit = computed(() => props.score?.unit || props.character.unit)
/** Held against a pencil, it is by eye; the next reading is not. */
const keptHow = computed(() => (/pencil/i.test(kept.value) ? 'ruler' : props.score?.how || 'ruler'))
const changed = computed(
  () => text.value.trim() !== kept.value || (kept.value !== '' && (unit.value !== keptUnit.value || how.value !== keptHow.value)),
)

function asKept() {
  text.value = kept.value
  unit.value = keptUnit.value
  how.value = keptHow.value
}
watch(
  [kept, keptUnit, keptHow],
  () => {
    if (editing.value || wrong.value.length) return
    asKept()
    if (kept.value) gone.value = false
  },
  { immediate: true },
)

/** Sends what was written as it is: the book reads it, and says what it understood. */
function keep() {
  const written = text.value.trim()
  if (!changed.value) return
  if (!written) {
    if (!props.score) return
    gone.value = true
    emit('withdraw')
    return
  }
  gone.value = false
  emit('score', {
    typed: written,
    how: how.value,
    ...(unit.value === props.character.unit ? {} : { unit: unit.value }),
    ...(props.score?.certainty ? { certainty: props.score.certainty } : {}),
  })
}

/** From the field to its unit is not away from it. */
function leave(e: FocusEvent) {
  if (form.value?.contains(e.relatedTarget as Node | null)) return
  editing.value = false
  if (!gauge.value) keep()
}

function drop(e: KeyboardEvent) {
  asKept()
  editing.value = false
  ;(e.target as HTMLElement).closest<HTMLElement>('[data-card]')?.focus()
}

/** A unit chosen after the figure belongs to it. */
const choose = () => text.value.trim() && keep()

const visibility = useDocumentVisibility()
watch(visibility, (now) => now === 'hidden' && editing.value && keep()) // the device is put away in the middle of it
onBeforeUnmount(() => editing.value && keep()) // and a key may lead elsewhere, without a step out of the field

/** Takes a reading of an instrument; several are written one after another. */
function take(r: Reading) {
  text.value = editing.value && text.value.trim() && changed.value ? `${text.value.trim()}; ${r.text}` : r.text
  how.value = 'caliper'
  gone.value = false
  emit(
    'score',
    { typed: text.value, how: how.value, ...(props.score?.certainty ? { certainty: props.score.certainty } : {}) },
    r.instrument,
  )
}

function measured(mm: number) {
  gauge.value = false
  text.value = `${mm} mm`
  how.value = 'ruler'
  keep()
}
</script>

<template>
  <form ref="form" class="row" @submit.prevent="keep" @focusin="editing = true" @focusout="leave" @keydown.escape.stop.prevent="drop">
    <label class="sr-only" :for="`value-${character.id}`">{{ character.name }}, in {{ unit }}</label>
    <input
      :id="`value-${character.id}`"
      v-model="text"
      data-measure
      class="press number"
      autocomplete="off"
      :placeholder="character.length ? '6.5, 1/4 in, 5; 6; 5.5' : '6'"
      :aria-invalid="wrong.length > 0"
      :aria-describedby="`said-${character.id}`"
    />
    <select v-if="character.length" v-model="unit" class="press" aria-label="Unit" @change="choose">
      <option v-for="u in vocabulary.words?.units" :key="u">{{ u }}</option>
    </select>
    <span v-else>{{ character.unit }}</span>
    <select v-if="character.length" v-model="how" class="press" aria-label="Measured with" @change="choose">
      <option v-for="h in hows" :key="h.id" :value="h.id">{{ h.words }}</option>
    </select>
    <button class="press" type="submit">Keep</button>
    <button v-if="character.gauge" class="press quiet" type="button" data-gauge @click="gauge = true">Gauge</button>
    <p :id="`said-${character.id}`" class="small said" role="status">
      <span v-for="w in wrong" :key="w" class="wrong">Not kept. {{ w }} </span>
      <template v-if="!wrong.length">
        <span v-if="editing && changed && text" class="soft">Kept when you leave the field.</span>
        <span v-else-if="score" class="soft">{{ score.understood || score.words }}</span>
        <span v-else-if="gone" class="soft">Taken away; undo brings it back.</span>
      </template>
    </p>
    <RouterLink
      v-if="character.id === 'form.dbh' && tree.view"
      class="press quiet"
      :to="{ name: 'story', params: { id: tree.view.tree.id }, query: { measure: 'diameter' } }"
      data-from-girth
      >From its girth</RouterLink
    >
    <OfferedReading v-if="character.caliper" :kinds="['diameter']" @take="take" />
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
  width: 12rem;
  text-align: right;
  cursor: text;
}

.number[aria-invalid='true'] {
  border-color: var(--pt-sumac);
}

.said {
  flex-basis: 100%;
}
</style>
