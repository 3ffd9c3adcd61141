<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Character, Score, ScoreView } from '../api/client'
import { useDesk } from '../stores/desk'

const props = defineProps<{ character: Character; score?: ScoreView }>()
const emit = defineEmits<{ score: [s: Partial<Score>] }>()
const desk = useDesk()
const lengths = ['mm', 'cm', 'in', 'ft']
const isLength = computed(() => lengths.includes(props.character.unit))
const text = ref('')
const unit = ref(props.character.unit)
const how = ref('ruler')
const readings = ref(1)
const wrong = ref('')

watch(() => props.score, (s) => {
  if (!s || s.value === undefined) return
  text.value = String(s.value)
  unit.value = s.unit || props.character.unit
  how.value = s.how || 'ruler'
  readings.value = s.readings ?? 1
}, { immediate: true })

function keep() {
  const value = Number(text.value.replace(',', '.'))
  if (!text.value.trim()) return
  if (!Number.isFinite(value) || value <= 0) {
    wrong.value = `Write a number of ${unit.value} above 0, such as 6.5.`
    return
  }
  wrong.value = ''
  emit('score', {
    value, readings: readings.value, how: how.value,
    ...(unit.value === props.character.unit ? {} : { unit: unit.value }),
    ...(props.score?.certainty ? { certainty: props.score.certainty } : {}),
  })
}
</script>

<template>
  <form class="row" @submit.prevent="keep">
    <label class="sr-only" :for="`value-${character.id}`">{{ character.name }}</label>
    <input
      :id="`value-${character.id}`" v-model="text" class="press number" inputmode="decimal" autocomplete="off"
      :aria-invalid="wrong !== ''" :aria-describedby="`wrong-${character.id}`" @blur="score && keep()"
    />
    <select v-if="isLength" v-model="unit" class="press" aria-label="Unit">
      <option v-for="u in lengths" :key="u">{{ u }}</option>
    </select>
    <span v-else>{{ character.unit }}</span>
    <select v-model="how" class="press" aria-label="Measured with">
      <option v-for="h in desk.desk?.hows" :key="h" :value="h">{{ h === 'eye' ? 'by eye' : h }}</option>
    </select>
    <label class="times small">readings
      <input v-model.number="readings" class="press few" type="number" min="1" max="99" />
    </label>
    <button class="press" type="submit">Keep</button>
    <p v-if="wrong" :id="`wrong-${character.id}`" class="wrong small" role="alert">{{ wrong }}</p>
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
  width: 6rem;
  text-align: right;
  cursor: text;
}

.times {
  display: flex;
  gap: 0.375rem;
  align-items: center;
}

.few {
  width: 4rem;
  min-width: 0;
  cursor: text;
}

.wrong {
  flex-basis: 100%;
}
</style>
