<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import PageFrame from '../components/PageFrame.vue'
import TreeFilter from '../components/TreeFilter.vue'
import GroundMap from '../components/GroundMap.vue'
import { api, type Dot, type Schemas } from '../api/client'
import { useFilter } from '../stores/filter'
import { statuses } from '../words'

const filter = useFilter()
const ground = ref<Schemas['Map'] | null>(null)
const dots = ref<Dot[]>([])
const error = ref('')
const loaded = ref(false)

async function load() {
  error.value = ''
  try {
    const [where, trees] = await Promise.all([
      ground.value ? { data: ground.value } : api.GET('/api/map'),
      api.GET('/api/map/trees', { params: { query: filter.query } }),
    ])
    ground.value = where.data ?? null
    dots.value = trees.data ?? []
  } catch {
    error.value = 'No connection to the book.'
  }
  loaded.value = true
}
onMounted(load)
watch(() => filter.query, load)
</script>

<template>
  <PageFrame title="Map" hint="Press a tree to open it" wide>
    <TreeFilter />
    <p v-if="error" class="wrong" role="alert">{{ error }} <button class="press" @click="load">Try again</button></p>
    <GroundMap v-if="ground" :ground="ground" :dots="dots" />
    <ul class="key small" aria-label="Signs">
      <li v-for="s in statuses" :key="s.id"><span class="sign" :class="s.id" aria-hidden="true">{{ s.sign }}</span> {{ s.label }}</li>
      <li class="soft">A larger mark: the leader holds more of the evidence.</li>
    </ul>
    <p v-if="loaded" class="soft small" role="status">
      {{ dots.length }} trees with a position.
      <template v-if="!dots.length">Positions are typed or read from the device on a tree's own page, or come in with a file (GPX, GeoJSON, table).</template>
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
