<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import type { paths } from '../api/schema.gen'
import { useAsk } from '../frame/ask'
import { useVocabulary } from '../frame/vocabulary'
import { useFlora } from '../flora/flora'
import { showsOf } from './shows'
import PlateSet from './PlateSet.vue'

const props = defineProps<{ name: string }>()
const flora = useFlora()
const vocabulary = useVocabulary()
const plate = ref<Schemas['Plate'] | null>(null)
const age = ref('mature')
const zone = ref('breast')
const odd = ref(0) // 0: the usual one; else which specimen
const { ask } = useAsk() // the page above says when there is no connection

type Query = NonNullable<paths['/api/flora/taxa/{name}/plate']['get']['parameters']['query']>

async function load() {
  const query = { region: flora.among.region, age: age.value, zone: zone.value, odd: odd.value } as Query
  const { data } = await ask(api.GET('/api/flora/taxa/{name}/plate', { params: { path: { name: props.name }, query } }))
  plate.value = data ?? null
}
watch(() => [props.name, age.value, zone.value, odd.value, flora.among], load, { immediate: true })
const shows = computed(() => showsOf(plate.value?.shows))
</script>

<template>
  <section class="panel" aria-label="Drawn">
    <div class="bar">
      <h2>Drawn to scale</h2>
      <div role="group" aria-label="Age">
        <button v-for="a in vocabulary.words?.ages" :key="a.id" class="press" :aria-pressed="age === a.id" @click="age = a.id">
          {{ a.words }}
        </button>
      </div>
      <div role="group" aria-label="Height on the trunk">
        <button v-for="z in vocabulary.words?.zones" :key="z.id" class="press" :aria-pressed="zone === z.id" @click="zone = z.id">
          {{ z.words }}
        </button>
      </div>
      <div role="group" aria-label="Which specimen">
        <button class="press" :aria-pressed="odd === 0" @click="odd = 0">Usual</button>
        <button class="press" :aria-pressed="odd > 0" @click="odd++">Another one</button>
      </div>
    </div>
    <p class="small soft">
      {{ odd ? `Specimen ${odd}, drawn from how much this tree varies.` : 'What most of them show. What is not known is drawn faint.' }} The
      lenses show the leaf scar and the pith enlarged.
    </p>
    <PlateSet v-if="plate" class="plates" :shows="shows" :title="plate.english"
      ><span class="sr-only">{{ plate.english }}</span></PlateSet
    >
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
