<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import PageFrame from '../frame/PageFrame.vue'
import TreeFilter from '../trees/TreeFilter.vue'
import NearestTrees from './NearestTrees.vue'
import TerrainMap from './TerrainMap.vue'
import { api, type Dot, type Schemas } from '../api/client'
import { useFilter } from '../trees/filter'
import { useAsk } from '../frame/ask'
import { count } from '../frame/words'
import SaidWrong from '../frame/SaidWrong.vue'
import { useVocabulary } from '../frame/vocabulary'

const filter = useFilter('map')
const land = ref<Schemas['Map'] | null>(null)
const dots = ref<Dot[]>([])
const loaded = ref(false)
const here = ref<{ lat: number; lon: number; within: number }>()
const vocabulary = useVocabulary()
const few = 200 // in the list beside the map
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
    <TreeFilter page="map" />
    <SaidWrong :lines="[...wrong, ...placed.wrong.value]" again @again="load" />
    <NearestTrees :query="filter.query" @at="here = $event" />
    <TerrainMap v-if="land" :land="land" :dots="dots" :zoom="filter.on" :me="here" />
    <ul class="key small" aria-label="Signs">
      <li v-for="s in vocabulary.statuses" :key="s.id">
        <span class="sign" :class="s.id" aria-hidden="true">{{ s.sign }}</span> {{ s.words }}
      </li>
      <li v-if="land?.points?.length"><span class="sign" aria-hidden="true">◌</span> Sample point</li>
      <li class="soft">A larger mark: the leader holds more of the evidence.</li>
    </ul>
    <p v-if="loaded" class="soft small" role="status">
      {{ count(dots.length, 'tree') }} with a position{{ filter.on ? ' of those asked for' : '' }}.
      <template v-if="!dots.length && filter.on">Take a filter off, or search for something else.</template>
      <template v-else-if="!dots.length"
        >Positions are typed or read from the device on a tree's own page, or come in with a file (GPX, GeoJSON, table).</template
      >
    </p>
    <details v-if="dots.length" class="as-list">
      <summary class="press quiet">The same trees as a list</summary>
      <ul class="rows">
        <li v-for="d in dots.slice(0, few)" :key="d.id">
          <RouterLink :to="{ name: 'tree', params: { id: d.id } }"
            ><strong>{{ d.tag }}</strong> <span class="soft">{{ d.words }}</span></RouterLink
          >
        </li>
      </ul>
      <p v-if="dots.length > few" class="soft small">The first {{ few }}; search above for others.</p>
    </details>
  </PageFrame>
</template>

<style scoped>
.key {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 1.25rem;
}

.as-list a {
  display: flex;
  gap: 0.75rem;
  align-items: center;
  min-height: var(--pt-press);
  padding: 0 1rem;
  color: inherit;
}
</style>
