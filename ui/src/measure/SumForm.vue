<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import type { Schemas } from '../api/client'
import SaidWrong from '../frame/SaidWrong.vue'
import { capital } from '../frame/words'
import type { Reading } from '../instruments/instruments'
import OfferedReading from '../instruments/OfferedReading.vue'
import { useSums } from './sums'
import type { Given, Sum } from './work'

type Input = Schemas['SumInput']

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

const isPlace = (i: Input) => i.kind === 'place' || i.kind === 'places'
const hint = (i: Input) => (sums.unit(i) ? `${i.example}; figures alone are ${sums.unit(i)}` : i.example)

/** What was taken of an instrument, by input: once another figure is typed over it, it is typed. */
const taken = ref<Record<string, string>>({})
watch(given, (now) => {
  if (!instrument.value) return
  const stands = Object.entries(taken.value).filter(([name, text]) => now[name] === text)
  taken.value = Object.fromEntries(stands)
})
function typed(name: string, text: string) {
  given.value = { ...given.value, [name]: text }
  delete taken.value[name]
  if (!Object.keys(taken.value).length) instrument.value = ''
}

/**
 * A laser reads distance and angle at once. Where there is a field for each, both are filled; a distance on the level is
 * brought to it by the angle.
 */
function take(i: Input, r: Reading) {
  const angle = r.angle ?? ''
  const range = (to: Input) => added(to.name, to.kind, to.sight === 'level' && angle ? `${r.text} at ${angle}` : r.text)
  const beside = i.kind === 'slope' ? props.sum.inputs?.find((o) => o.sight === i.name) : undefined
  const read =
    i.kind === 'slope'
      ? { ...added(i.name, i.kind, angle), ...(beside ? range(beside) : {}) }
      : { ...range(i), ...(angle && i.sight && i.sight !== 'level' ? { [i.sight]: angle } : {}) }
  const along = i.sight === 'level' && props.sum.inputs?.some((o) => o.name === 'along')
  given.value = { ...given.value, ...read, ...(along ? { along: 'level' } : {}) }
  taken.value = { ...taken.value, ...read }
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
            :value="given[i.name]"
            autocomplete="off"
            maxlength="2000"
            :inputmode="i.kind === 'number' || i.kind === 'count' ? 'decimal' : undefined"
            :aria-invalid="at === i.name"
            :aria-describedby="`hint-${i.name}`"
            :data-input="i.name"
            @input="typed(i.name, ($event.target as HTMLInputElement).value)"
          />
          <button v-if="isPlace(i)" type="button" class="press" @click="here(i.name, i.kind)">Here</button>
          <OfferedReading
            v-if="i.reads"
            :kinds="[i.reads]"
            :angle="i.kind === 'slope'"
            :level="i.sight === 'level'"
            @take="take(i, $event)"
          />
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
