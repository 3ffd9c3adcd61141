<script setup lang="ts">
import { ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import type { paths } from '../api/schema.gen'
import { useAsk } from '../frame/ask'
import { useVocabulary } from '../frame/vocabulary'
import { useFlora } from '../flora/flora'
import { plateAddress, useDrawings } from './addresses'
import PlateImage from './PlateImage.vue'
import PlateSet from './PlateSet.vue'

const props = defineProps<{ name: string }>()
const flora = useFlora()
const vocabulary = useVocabulary()
const plate = ref<Schemas['Plate'] | null>(null)
const age = ref('mature')
const zone = ref('breast')
const odd = ref(0) // 0: the usual one; else which specimen
const { ask } = useAsk() // the page above says when there is no connection

const { digest, theme } = useDrawings()
const more = ['fruit', 'leaf'] as const

type Query = NonNullable<paths['/api/flora/taxa/{name}/plate']['get']['parameters']['query']>

async function load() {
  const query = { region: flora.among.region, age: age.value, zone: zone.value, odd: odd.value } as Query
  const { data, overtaken } = await ask(api.GET('/api/flora/taxa/{name}/plate', { params: { path: { name: props.name }, query } }))
  if (!overtaken) plate.value = data ?? null
}
watch(() => [props.name, age.value, zone.value, odd.value, flora.among], load, { immediate: true })
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
      {{ odd ? `Specimen ${odd}, drawn from how much this tree varies.` : 'What most of them show. What is not known is drawn faint.' }}
      The lenses show the end bud, a leaf scar and the pith enlarged. Press a drawing to fill the screen with it.
    </p>
    <template v-if="plate">
      <PlateSet class="plates" :taxon="name" :region="flora.among.region" :age="age" :zone="zone" :odd="odd" :says="plate.says" />
      <div class="more">
        <PlateImage
          v-for="w in more"
          :key="w"
          :address="(theme) => plateAddress({ what: w, taxon: name, region: flora.among.region, odd }, digest, theme)"
          :theme="theme"
          :says="`${w === 'fruit' ? 'Fruit' : 'Leaf on the ground'} of ${plate.english}`"
        />
      </div>
    </template>
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
  max-width: 38rem;
}

.more {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 14rem));
  gap: 1rem;
}
</style>
