<script setup lang="ts">
import { useGeolocation } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { figure } from '../frame/words'

/** One's own position, and the way to the nearest trees that are to be done. */
const props = defineProps<{ query: Record<string, unknown> }>()
const emit = defineEmits<{ at: [{ lat: number; lon: number; within: number }] }>()
const on = ref(false)
const { coords, error, resume, pause } = useGeolocation({ immediate: false, enableHighAccuracy: true, maximumAge: 5000 })
const known = computed(() => on.value && Number.isFinite(coords.value.latitude))
const near = ref<Schemas['Near'][]>([])
const { wrong, ask } = useAsk()

function toggle() {
  on.value = !on.value
  if (on.value) resume()
  else pause()
}

async function look() {
  const { latitude: lat, longitude: lon, accuracy } = coords.value
  emit('at', { lat, lon, within: accuracy })
  const { data } = await ask(api.GET('/api/map/nearest', { params: { query: { ...props.query, lat, lon, most: 3 } } }))
  if (data) near.value = data
}
watch(
  () => [known.value, coords.value.latitude, coords.value.longitude, props.query],
  () => known.value && void look(),
)
</script>

<template>
  <section aria-label="Where I am">
    <button class="press" :aria-pressed="on" data-where @click="toggle">
      <i class="pi pi-compass" aria-hidden="true"></i> {{ on ? 'Stop looking where I am' : 'Where am I?' }}
    </button>
    <template v-if="on">
      <p v-if="error" class="wrong small">This device does not say where it is: {{ error.message || 'it may not' }}.</p>
      <p v-else-if="!known" class="soft small" role="status">Looking for the position…</p>
      <template v-else>
        <p class="soft small" role="status">Within {{ figure(coords.accuracy, 0) }} m. To do from here:</p>
        <SaidWrong :lines="wrong" again @again="look" />
        <ol data-near>
          <li v-for="n in near" :key="n.id">
            <RouterLink class="press" :to="{ name: 'tree', params: { id: n.id } }"
              ><strong>{{ n.tag }}</strong
              ><span class="arrow" aria-hidden="true" :style="{ rotate: `${n.bearing}deg` }">↑</span> {{ n.way }}</RouterLink
            >
          </li>
          <li v-if="!near.length" class="soft">Nothing with a position is left to do.</li>
        </ol>
      </template>
    </template>
  </section>
</template>

<style scoped>
section,
ol {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 0.75rem;
  align-items: center;
  margin: 0;
  padding: 0;
  list-style: none;
}

.arrow {
  display: inline-block;
  margin-inline: 0.375rem;
  font-weight: 700;
}
</style>
