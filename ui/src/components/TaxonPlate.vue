<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { useFlora } from '../stores/flora'
import { showsOfPlate } from '../plates/shows'
import PlateSet from './PlateSet.vue'

const props = defineProps<{ name: string }>()
const flora = useFlora()
const plate = ref<Schemas['Plate'] | null>(null)
const age = ref<'young' | 'mature' | 'old'>('mature')
const zone = ref<'base' | 'breast' | 'upper'>('breast')
const odd = ref(0) // 0: the usual one; else which specimen
const ages = ['young', 'mature', 'old'] as const
const zones = ['base', 'breast', 'upper'] as const

async function load() {
  try {
    const { data } = await api.GET('/api/flora/taxa/{name}/plate', {
      params: { path: { name: props.name }, query: { pool: flora.pool, age: age.value, zone: zone.value, odd: odd.value } },
    })
    plate.value = data ?? null
  } catch {
    plate.value = null // the page above says that there is no connection
  }
}
watch(() => [props.name, age.value, zone.value, odd.value, flora.pool], load, { immediate: true })
const shows = computed(() => (plate.value ? showsOfPlate(plate.value) : new Map()))
</script>

<template>
  <section class="panel" aria-label="Drawn">
    <div class="bar">
      <h2>Drawn to scale</h2>
      <div role="group" aria-label="Age">
        <button v-for="a in ages" :key="a" class="press" :aria-pressed="age === a" @click="age = a">{{ a }}</button>
      </div>
      <div role="group" aria-label="Height on the trunk">
        <button v-for="z in zones" :key="z" class="press" :aria-pressed="zone === z" @click="zone = z">{{ z }}</button>
      </div>
      <div role="group" aria-label="Which specimen">
        <button class="press" :aria-pressed="odd === 0" @click="odd = 0">Usual</button>
        <button class="press" :aria-pressed="odd > 0" @click="odd++">Another one</button>
      </div>
    </div>
    <p class="small soft">{{ odd ? `Specimen ${odd}, drawn from how much this tree varies.` : 'What most of them show. What is not known is drawn faint.' }} The lenses show the leaf scar and the pith enlarged.</p>
    <PlateSet v-if="plate" class="plates" :shows="shows" :title="plate.english"><span class="sr-only">{{ plate.english }}</span></PlateSet>
  </section>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 1rem;
  align-items: center;
}

.bar > div {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem;
}

h2 {
  font-size: 1.0625rem;
  margin-right: auto;
}

.plates {
  max-width: 34rem;
}
</style>
