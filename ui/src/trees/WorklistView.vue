<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import PageFrame from '../frame/PageFrame.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { useVocabulary } from '../frame/vocabulary'
import OpenTree from './OpenTree.vue'
import TreeFilter from './TreeFilter.vue'
import { api, type Unsettled } from '../api/client'
import { useFilter } from './filter'
import { usePages } from '../frame/pages'

const filter = useFilter()
const home = ref(false)
const vocabulary = useVocabulary()
const open = computed(() => vocabulary.statuses.filter((s) => !s.settled).map((s) => s.id))
const { list, total, wrong, loaded, load, more } = usePages<Unsettled>((limit, offset) =>
  api.GET('/api/worklist', { params: { query: { ...filter.query, limit, offset } } }),
)
const shown = computed(() => (home.value ? list.value.filter((t) => t.home) : list.value))

onMounted(load)
watch(() => filter.query, load)
</script>

<template>
  <PageFrame title="Worklist" hint="Trees not yet settled, those first for which one look is worth most">
    <template #actions>
      <a class="press file" :href="`/api/worklist/calendar.ics?${filter.search}`" download>
        <i class="pi pi-calendar" aria-hidden="true"></i> When to come back (ICS)
      </a>
    </template>
    <TreeFilter :offer="open" />
    <p>
      <button class="press" data-home :aria-pressed="home" @click="home = !home">
        <i class="pi pi-home" aria-hidden="true"></i> Only those that need a twig in hand
      </button>
    </p>
    <SaidWrong :lines="wrong" again @again="load" />
    <p v-if="loaded && !shown.length && !wrong.length" class="soft">
      Nothing is open here: every tree that fits has a name that nothing speaks against.
    </p>
    <ul v-if="shown.length" class="rows" aria-label="Open trees">
      <OpenTree v-for="t in shown" :key="t.id" :tree="t" />
    </ul>
    <p v-if="list.length" class="soft more" role="status">
      {{ list.length }} of {{ total }} open
      <button v-if="list.length < total" class="press" @click="more">Show more</button>
    </p>
    <p class="soft small">
      Take a twig home only where collecting is allowed, and cut none from a protected tree. Days to come back are the flora's calendar
      moved to where the tree stands, good to a week or so.
    </p>
  </PageFrame>
</template>
