<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { useRefocus } from '../frame/refocus'
import { computed, ref } from 'vue'
import { useSettings } from '../frame/settings'

/** onlyScreen: the screen is measured, and nothing else. */
const props = defineProps<{ onlyScreen?: boolean }>()
const emit = defineEmits<{ close: []; measured: [mm: number] }>()
useRefocus()
const settings = useSettings()
/** The width of a bank card, ISO/IEC 7810 ID-1. */
const cardMm = 85.6
const usual = 96 / 25.4 // what browsers take for granted, seldom true
const trying = ref(settings.pixelsPerMm || usual)
const calibrating = ref(props.onlyScreen || settings.pixelsPerMm === 0)
const mm = ref(6)

const scale = computed(() => (calibrating.value ? trying.value : settings.pixelsPerMm))
const ticks = computed(() => Array.from({ length: 41 }, (_, i) => ({ x: i * scale.value, long: i % 10 === 0, middle: i % 5 === 0 })))

function calibrated() {
  settings.pixelsPerMm = trying.value
  calibrating.value = false
  if (props.onlyScreen) emit('close')
}
</script>

<template>
  <Dialog :visible="true" modal header="Gauge" :style="{ width: '34rem', maxWidth: '98vw' }" @update:visible="emit('close')">
    <template v-if="calibrating">
      <p>Once for this screen: hold a bank card against the frame and move the slider until it is as wide as the card.</p>
      <div class="card" :style="{ width: `${cardMm * trying}px` }">85.6 mm</div>
      <input v-model.number="trying" type="range" min="2" max="9" step="0.01" aria-label="Width of the card on this screen" />
      <button class="press lead" data-calibrated @click="calibrated">It is as wide as the card</button>
    </template>
    <template v-else>
      <p>Hold the twig or bud to the screen and move the bar until it is as long.</p>
      <svg :width="40 * scale + 2" height="70" role="img" :aria-label="`Bar of ${mm} mm on a ruler of 40 mm`">
        <rect x="0" y="4" :width="mm * scale" height="24" class="bar" />
        <line v-for="t in ticks" :key="t.x" :x1="t.x" :x2="t.x" y1="32" :y2="t.long ? 56 : t.middle ? 48 : 42" class="tick" />
        <text v-for="n in 5" :key="n" :x="(n - 1) * 10 * scale" y="68">{{ (n - 1) * 10 }}</text>
      </svg>
      <label class="field"
        ><span>{{ mm }} mm</span>
        <input v-model.number="mm" type="range" min="0.5" max="40" step="0.5" aria-label="Length of the bar in mm"
      /></label>
      <div class="row">
        <button class="press lead" data-measured @click="emit('measured', mm)">Take {{ mm }} mm</button>
        <button class="press quiet" @click="calibrating = true">Measure the screen again</button>
      </div>
    </template>
  </Dialog>
</template>

<style scoped>
.card {
  display: grid;
  place-items: center;
  height: 6rem;
  margin: 0.75rem 0;
  border: 2px solid var(--pt-ink);
  border-radius: 10px;
}

input[type='range'] {
  width: 100%;
  min-height: var(--pt-press);
}

svg {
  max-width: 100%;
  overflow: visible;
}

.bar {
  fill: var(--pt-spruce);
}

.tick {
  stroke: var(--pt-ink);
}

text {
  font-size: 11px;
  fill: var(--pt-ink);
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  margin-top: 0.5rem;
}
</style>
