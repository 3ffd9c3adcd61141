<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { clockThere, figure } from '../frame/words'
import { atHome, useInstruments } from '../instruments/instruments'

/** Where to go next from here, and the rest of the day planned anew from here and now. */
const props = defineProps<{ plan: Schemas['DayPlan'] }>()
const emit = defineEmits<{ anew: [at: [number, number]]; on: [done: string, at: [number, number], left: string[]] }>()
const instruments = useInstruments()
const at = ref<[number, number] | null>(null)
const wrong = ref('')
const way = ref<Schemas['SumResult'] | null>(null)
const { ask } = useAsk()
const paceLong = 0.8
const crew = ref(0)
const stops = computed(() => (props.plan.crews?.[crew.value] ?? props.plan.crews?.[0])?.stops ?? [])
const next = computed(() => stops.value[0])

/** The first stop is done: the rest from here, or, where that is not known, from the tree. */
function done() {
  if (!next.value) return
  const there: [number, number] = [next.value.lon ?? 0, next.value.lat ?? 0]
  emit(
    'on',
    next.value.id,
    at.value ?? there,
    stops.value.slice(1).map((s) => s.id),
  )
}
let watched = 0
let leave = () => {}

/** The receiver's position at home; on another device its own, and the receiver's only where that does not know. */
const receiver = computed(() => instruments.all.find((s) => s.kind === 'gnss' && s.health === 'well')?.last)
const own = ref(false)
watch(receiver, (r) => r && !own.value && (at.value = [r.lon ?? 0, r.lat ?? 0]))
onMounted(() => {
  leave = instruments.use()
  if (!navigator.geolocation) return
  watched = navigator.geolocation.watchPosition(
    (p) => {
      if (atHome() && receiver.value) return
      own.value = true
      at.value = [p.coords.longitude, p.coords.latitude]
    },
    () => (wrong.value = 'This device does not say where it is.'),
    { enableHighAccuracy: true },
  )
})
onUnmounted(() => {
  leave()
  if (watched) navigator.geolocation.clearWatch(watched)
})

/** Asked anew after every few steps, not at every fix. */
const step = computed(() => (at.value ? at.value.map((x) => x.toFixed(4)).join() + next.value?.id : ''))
watch(step, async () => {
  if (!at.value || !next.value) return
  const sums = [
    { id: 'way', sum: 'bearing', from: at.value, to: [next.value.lon, next.value.lat] },
  ] as unknown as Schemas['SumsAsked']['sums']
  const { data, overtaken } = await ask(api.POST('/api/sums', { body: { sums } }))
  if (!overtaken) way.value = data?.[0] ?? null
})
const metres = computed(() => way.value?.value ?? 0)
const bearing = computed(() => way.value?.parts?.true_degrees ?? 0)
</script>

<template>
  <section class="panel" aria-label="Next stop" data-next-stop>
    <p v-if="!next" class="soft">Nothing more fits into the day.</p>
    <template v-else>
      <p class="to">
        <svg v-if="way?.value" viewBox="-10 -10 20 20" :style="{ transform: `rotate(${bearing}deg)` }" aria-hidden="true">
          <path d="M0 -8 L5 7 L0 4 L-5 7 Z" />
        </svg>
        <span>
          <strong>{{ next.tag }}</strong>
          <template v-if="way?.value">
            {{ figure(metres, 0) }} m at {{ figure(bearing, 0) }}° · {{ figure(metres / paceLong, 0) }} paces</template
          >
          <span class="small soft">
            planned for {{ clockThere(next.arrive) }}<template v-if="next.over">; a stream is crossed on the way</template></span
          >
        </span>
      </p>
      <p class="acts">
        <RouterLink class="press lead" :to="`/trees/${next.id}`">Open it</RouterLink>
        <button class="press" data-done @click="done">Done, go on</button>
      </p>
    </template>
    <p class="acts">
      <button class="press" data-replan :disabled="!at" @click="at && emit('anew', at)">Plan anew from here and now</button>
      <label v-if="(plan.crews?.length ?? 0) > 1" class="small"
        >Crew
        <select v-model.number="crew">
          <option v-for="(_, i) in plan.crews" :key="i" :value="i">{{ i + 1 }}</option>
        </select></label
      >
      <span v-if="!at" class="small soft" role="status">{{ wrong || 'Waiting for a position…' }}</span>
    </p>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 0.5rem;
}

.to {
  display: flex;
  gap: 0.75rem;
  align-items: center;
  font-size: 1.25rem;
}

svg {
  width: 2.5rem;
  flex: none;
  fill: var(--pt-spruce);
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
}
</style>
