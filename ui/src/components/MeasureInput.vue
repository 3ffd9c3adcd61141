<script setup lang="ts">
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import type { Character, Score, ScoreView } from '../api/client'
import { figures, mean, readLength, spread } from '../lengths'
import { useDesk } from '../stores/desk'

const GaugeDialog = defineAsyncComponent(() => import('./GaugeDialog.vue'))

const props = defineProps<{ character: Character; score?: ScoreView }>()
const emit = defineEmits<{ score: [s: Partial<Score>] }>()
const desk = useDesk()
const lengths = ['mm', 'cm', 'in', 'ft']
const isLength = computed(() => lengths.includes(props.character.unit))
const text = ref('')
const unit = ref(props.character.unit)
const how = ref('ruler')
const wrong = ref('')
const said = ref('')
const gauge = ref(false)

watch(() => props.score, (s) => {
  if (!s || s.value === undefined || s.value === null) return
  const shown = readLength(text.value)
  if (!shown || figures(mean(shown.values)) !== figures(s.value)) text.value = String(s.value)
  unit.value = s.unit || props.character.unit
  how.value = s.how || 'ruler'
}, { immediate: true })

function keep() {
  if (!text.value.trim()) return
  const got = readLength(text.value)
  if (!got || (got.unit && !isLength.value)) {
    wrong.value = isLength.value
      ? 'Write a number, as 6.5 or 3 1/2 or 1/4 in; several readings as 5; 6; 5.5; or a pencil.'
      : `Write a number of ${props.character.unit}, or several as 5; 6; 5.`
    return
  }
  wrong.value = ''
  if (got.unit) unit.value = got.unit
  if (got.pencil) how.value = 'eye'
  const value = figures(mean(got.values))
  said.value = got.values.length > 1 ? `mean ${value}, spread ${figures(spread(got.values))} ${unit.value}` : ''
  emit('score', {
    value, readings: got.values.length, how: how.value,
    ...(unit.value === props.character.unit ? {} : { unit: unit.value }),
    ...(props.score?.certainty ? { certainty: props.score.certainty } : {}),
  })
}

function measured(mm: number) {
  gauge.value = false
  text.value = String(figures(mm))
  unit.value = 'mm'
  how.value = 'ruler'
  keep()
}
</script>

<template>
  <form class="row" @submit.prevent="keep">
    <label class="sr-only" :for="`value-${character.id}`">{{ character.name }}, in {{ unit }}</label>
    <input
      :id="`value-${character.id}`" v-model="text" class="press number" autocomplete="off" placeholder="6.5"
      :aria-invalid="wrong !== ''" :aria-describedby="`wrong-${character.id}`" @blur="score && keep()"
    />
    <select v-if="isLength" v-model="unit" class="press" aria-label="Unit">
      <option v-for="u in lengths" :key="u">{{ u }}</option>
    </select>
    <span v-else>{{ character.unit }}</span>
    <select v-model="how" class="press" aria-label="Measured with">
      <option v-for="h in desk.desk?.hows" :key="h" :value="h">{{ h === 'eye' ? 'by eye' : h }}</option>
    </select>
    <button class="press" type="submit">Keep</button>
    <button v-if="isLength && character.unit === 'mm'" class="press quiet" type="button" data-gauge @click="gauge = true">Gauge</button>
    <span v-if="said" class="soft small" role="status">{{ said }}</span>
    <p v-if="wrong" :id="`wrong-${character.id}`" class="wrong small" role="alert">{{ wrong }}</p>
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

.wrong {
  flex-basis: 100%;
}
</style>
