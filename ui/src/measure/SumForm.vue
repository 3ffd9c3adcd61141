<script setup lang="ts">
import { computed, nextTick } from 'vue'
import type { Schemas } from '../api/client'
import SaidWrong from '../frame/SaidWrong.vue'
import { capital } from '../frame/words'
import type { Reading } from '../instruments/instruments'
import OfferedReading from '../instruments/OfferedReading.vue'
import { useSums } from './sums'
import type { Given, Sum } from './work'

/** The fields of a sum, each with what an instrument offers for it. */
const props = defineProps<{ sum: Sum; error?: string; wrong: string[]; busy: boolean; words?: string }>()
const given = defineModel<Given>('given', { required: true })
const instrument = defineModel<string>('instrument', { default: '' })
const emit = defineEmits<{ work: [] }>()
const sums = useSums()

/** Which input a refusal names, so that it is shown there and the hand goes there. */
const at = computed(() => props.error?.split(':')[0] ?? '')
async function work() {
  emit('work')
  await nextTick()
}
defineExpose({ toWrong: () => document.getElementById(`sum-${at.value}`)?.focus() })

/** What an input holds with a reading added: of a list one more, else in place of what was there. */
function added(name: string, kind: string, text: string): Given {
  const many = ['places', 'lengths', 'numbers'].includes(kind) && given.value[name]
  return { [name]: many ? `${given.value[name]}; ${text}` : text }
}
const append = (name: string, kind: string, text: string) => (given.value = { ...given.value, ...added(name, kind, text) })

function here(name: string, kind: string) {
  navigator.geolocation.getCurrentPosition(
    (p) => append(name, kind, `${p.coords.latitude.toFixed(6)}, ${p.coords.longitude.toFixed(6)}`),
    () => document.getElementById(`sum-${name}`)?.focus(), // it is to be typed then
    { enableHighAccuracy: true, timeout: 15_000 },
  )
}

const isPlace = (i: Schemas['SumInput']) => i.kind === 'place' || i.kind === 'places'
const isLength = (i: Schemas['SumInput']) => i.kind === 'length' || i.kind === 'lengths'
const hint = (i: Schemas['SumInput']) => (sums.unit(i) ? `${i.example}; figures alone are ${sums.unit(i)}` : i.example)
/** A caliper reads diameters; what is read along a line of sight is a distance, and how steep it is. */
function kinds(i: Schemas['SumInput']): Reading['kind'][] {
  if (isPlace(i)) return ['position']
  if (i.kind === 'slope') return ['range']
  if (!isLength(i)) return []
  return props.sum.fills === 'diameter' || /diameter/.test(i.name) ? ['diameter'] : ['range']
}

/** A laser reads distance and angle at once: where there is a field for each, both are filled. */
function take(i: Schemas['SumInput'], r: Reading) {
  const beside = i.name.endsWith('_range') ? i.name.replace('_range', '_angle') : i.name.replace('_angle', '_range')
  const both = beside !== i.name && props.sum.inputs?.some((o) => o.name === beside)
  const [mine, other] = i.kind === 'slope' ? [r.angle ?? '', r.text] : [r.text, r.angle ?? '']
  given.value = { ...given.value, ...added(i.name, i.kind, mine), ...(both ? { [beside]: other } : {}) }
  instrument.value = r.instrument
}
</script>

<template>
  <form class="sum" @submit.prevent="work">
    <div v-for="i in sum.inputs" :key="i.name" class="input">
      <label class="field" :for="`sum-${i.name}`"
        >{{ i.words }}<template v-if="i.optional"> (if so)</template>
        <select v-if="i.of?.length" :id="`sum-${i.name}`" v-model="given[i.name]">
          <option v-for="o in i.of" :key="o" :value="o">{{ o }}</option>
        </select>
        <span v-else class="typed">
          <input
            :id="`sum-${i.name}`"
            v-model="given[i.name]"
            autocomplete="off"
            maxlength="2000"
            :inputmode="i.kind === 'number' || i.kind === 'count' ? 'decimal' : undefined"
            :aria-invalid="at === i.name"
            :aria-describedby="`hint-${i.name}`"
            :data-input="i.name"
          />
          <button v-if="isPlace(i)" type="button" class="press" @click="here(i.name, i.kind)">Here</button>
          <OfferedReading v-if="kinds(i).length" :kinds="kinds(i)" :angle="i.kind === 'slope'" @take="take(i, $event)" />
        </span>
        <span :id="`hint-${i.name}`" class="small soft">{{ hint(i) }}</span>
      </label>
    </div>
    <SaidWrong :lines="wrong" />
    <p v-if="error" class="wrong" role="alert" data-sum-wrong>{{ capital(error) }}.</p>
    <span class="acts">
      <button class="press lead" :disabled="busy" data-work>{{ words || 'Work it out' }}</button>
      <slot name="acts" />
    </span>
  </form>
</template>

<style scoped>
.sum {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(22rem, 100%), 1fr));
  gap: 0.75rem 1rem;
  align-items: start;
}

.sum > :not(.input) {
  grid-column: 1 / -1;
}

.typed,
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

.typed input {
  flex: 1 1 8rem;
  min-width: 0;
  min-height: 56px;
  font-size: 1.25rem;
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  padding: 0 0.75rem;
  background: var(--pt-snow);
}

.typed input[aria-invalid='true'] {
  border-color: var(--pt-sumac);
}
</style>
