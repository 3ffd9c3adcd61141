<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import PageFrame from '../frame/PageFrame.vue'
import TreeFilter from '../trees/TreeFilter.vue'
import TerrainMap from './TerrainMap.vue'
import { api, type Dot, type Schemas } from '../api/client'
import { useFilter } from '../trees/filter'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { useVocabulary } from '../frame/vocabulary'

const filter = useFilter()
const land = ref<Schemas['Map'] | null>(null)
const dots = ref<Dot[]>([])
const loaded = ref(false)
const vocabulary = useVocabulary()
const { wrong, ask } = useAsk()
const placed = useAsk()

async function load() {
  const [where, trees] = await Promise.all([
    land.value ? { data: land.value } : ask(api.GET('/api/map')),
    placed.ask(api.GET('/api/map/trees', { params: { query: filter.query } })),
  ])
  land.value = where.data ?? null
  if (trees.data) dots.value = trees.data
  loaded.value = true
}
onMounted(load)
watch(() => filter.query, load)
</script>

<template>
  <PageFrame title="Map" hint="Press a tree to open it" wide>
    <TreeFilter />
    <SaidWrong :lines="[...wrong, ...placed.wrong.value]" again @again="load" />
    <TerrainMap v-if="land" :land="land" :dots="dots" />
    <ul class="key small" aria-label="Signs">
      <li v-for="s in vocabulary.statuses" :key="s.id">
        <span class="sign" :class="s.id" aria-hidden="true">{{ s.sign }}</span> {{ s.words }}
      </li>
      <li class="soft">A larger mark: the leader holds more of the evidence.</li>
    </ul>
    <p v-if="loaded" class="soft small" role="status">
      {{ dots.length }} trees with a position.
      <template v-if="!dots.length"
        >Positions are typed or read from the device on a tree's own page, or come in with a file (GPX, GeoJSON, table).</template
      >
    </p>
  </PageFrame>
</template>

<style scoped>
.key {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 1.25rem;
}
</style>
