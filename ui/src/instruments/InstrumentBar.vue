<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref } from 'vue'
import { isAway } from '../woods/device'
import { useInstruments } from './instruments'

/** How each instrument does, in one line; pressed, it says more. */
const props = defineProps<{ station?: boolean }>() // with the weather station
const instruments = useInstruments()
const shown = computed(() => instruments.all.filter((s) => props.station || s.kind !== 'weather'))
const open = ref('')
let leave = () => {}
onMounted(() => (leave = instruments.use()))
onUnmounted(() => leave())
const signs = { well: '●', connecting: '○', 'no-fix': '◆', stale: '◆', jumped: '◆', garbled: '◆', silent: '○', unplugged: '×' }
const words = {
  well: 'ready',
  connecting: 'calling',
  'no-fix': 'no fix',
  stale: 'stuck',
  jumped: 'jumped',
  garbled: 'not readable',
  silent: 'silent',
  unplugged: 'not there',
}
const says = () => instruments.all.find((s) => s.name === open.value)
</script>

<template>
  <section v-if="!isAway() && shown.length" class="bar" aria-label="Instruments" data-instruments>
    <button
      v-for="s in shown"
      :key="s.name"
      class="press quiet small"
      :data-instrument="s.kind"
      :data-health="s.health"
      :aria-expanded="open === s.name"
      @click="open = open === s.name ? '' : s.name"
    >
      <span :class="{ bad: !['well', 'connecting'].includes(s.health) }" aria-hidden="true">{{ signs[s.health] }}</span>
      {{ s.name }}:
      {{ s.last ? [s.last.text, s.last.angle].filter(Boolean).join(' ') : s.kind === 'weather' && s.says ? s.says : words[s.health] }}
    </button>
    <p v-if="says()" class="small said" role="status">
      {{ says()?.says || 'It reads as it should.' }}
      <span v-if="says()?.bad" class="soft">{{ says()?.bad }} of its lines could not be read so far.</span>
    </p>
  </section>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem;
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  padding: 0.125rem 0.25rem;
  background: var(--pt-snow);
}

.press {
  border-color: transparent;
  font-variant-numeric: tabular-nums;
}

.bad {
  color: var(--pt-sumac);
}

.said {
  flex-basis: 100%;
  padding: 0 0.5rem 0.375rem;
}
</style>
