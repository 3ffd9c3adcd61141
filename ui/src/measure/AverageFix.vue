<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, watch } from 'vue'
import { count } from '../frame/words'
import { atHome, useInstruments } from '../instruments/instruments'

/** Gathers fixes while one stands at the tree: of the receiver at home, else of this device. */
const emit = defineEmits<{ fixes: [places: string[], hdop: number[], from: string] }>()
const instruments = useInstruments()
const going = ref(false)
const places = ref<string[]>([])
const hdop = ref<number[]>([])
const from = ref('')
const wrong = ref('')
const most = 200
const accuracyOfOne = 5 // metres of error for each unit of dilution, as the receiver's own
let watched = 0
let leave = () => {}
onMounted(() => (leave = instruments.use()))
onUnmounted(() => {
  stop()
  leave()
})
const receiver = computed(() => (atHome() ? instruments.all.find((s) => s.kind === 'gnss') : undefined))

function add(lat: number, lon: number, dilution: number) {
  if (places.value.length >= most) return stop()
  places.value.push(`${lat.toFixed(7)}, ${lon.toFixed(7)}`)
  hdop.value.push(Math.max(0.1, Math.round(dilution * 10) / 10))
}
watch(
  () => receiver.value?.last?.serial,
  () => {
    const r = receiver.value?.last
    if (going.value && from.value && r) add(r.lat ?? 0, r.lon ?? 0, r.hdop ?? 1)
  },
)

function start() {
  places.value = []
  hdop.value = []
  wrong.value = ''
  going.value = true
  from.value = receiver.value ? receiver.value.name : ''
  if (receiver.value || !navigator.geolocation) return
  watched = navigator.geolocation.watchPosition(
    (p) => add(p.coords.latitude, p.coords.longitude, p.coords.accuracy / accuracyOfOne),
    () => {
      wrong.value = 'This device does not say where it is. Type the position instead.'
      stop()
    },
    { enableHighAccuracy: true },
  )
}

function stop() {
  going.value = false
  if (watched) navigator.geolocation.clearWatch(watched)
  watched = 0
}

function done() {
  stop()
  if (places.value.length) emit('fixes', places.value, hdop.value, from.value || 'this device')
}
</script>

<template>
  <div class="fix">
    <button v-if="!going" type="button" class="press lead" data-average @click="start">
      Stand at the tree and gather fixes{{ receiver ? ` of ${receiver.name}` : '' }}
    </button>
    <button v-else type="button" class="press lead" data-averaged @click="done">
      {{ count(places.length, 'fix', 'fixes') }} so far · enough
    </button>
    <span v-if="going && receiver && receiver.health !== 'well'" class="small wrong" role="status">{{ receiver.says }}</span>
    <span v-if="wrong" class="small wrong" role="alert">{{ wrong }}</span>
    <span v-if="going" class="small soft">Half a minute or more makes it better; stay where you are.</span>
  </div>
</template>

<style scoped>
.fix {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
}
</style>
