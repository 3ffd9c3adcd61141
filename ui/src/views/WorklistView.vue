<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import PageFrame from '../components/PageFrame.vue'
import OpenTree from '../components/OpenTree.vue'
import TreeFilter from '../components/TreeFilter.vue'
import { api, problemLines, type Unsettled } from '../api/client'
import { useFilter } from '../stores/filter'

const filter = useFilter()
const list = ref<Unsettled[]>([])
const total = ref(0)
const error = ref('')
const loaded = ref(false)
const home = ref(false)
const open = ['doubtful', 'ready', 'open', 'unscored'] as const
const query = computed(() => ({ ...filter.query, status: filter.query.status?.filter((s) => s !== 'named') }))
const shown = computed(() => (home.value ? list.value.filter((t) => t.home) : list.value))

async function fetch(offset: number) {
  error.value = ''
  try {
    const { data, error: problem } = await api.GET('/api/worklist', { params: { query: { ...query.value, limit: 60, offset } } })
    if (data) {
      list.value = [...list.value.slice(0, offset), ...(data.trees ?? [])]
      total.value = data.total
    } else error.value = problemLines(problem).join(' ')
  } catch {
    error.value = 'No connection to the book.'
  }
  loaded.value = true
}
onMounted(() => fetch(0))
watch(query, () => fetch(0))
</script>

<template>
  <PageFrame title="Worklist" hint="Trees not yet settled, those first for which one look is worth most">
    <template #actions>
      <a class="press file" :href="`/api/worklist/calendar.ics?${filter.search}`" download>
        <i class="pi pi-calendar" aria-hidden="true"></i> When to come back (ICS)
      </a>
    </template>
    <TreeFilter :offer="[...open]" />
    <p><button class="press" data-home :aria-pressed="home" @click="home = !home"><i class="pi pi-home" aria-hidden="true"></i> Only those that need a twig in hand</button></p>
    <p v-if="error" class="wrong" role="alert">{{ error }} <button class="press" @click="fetch(0)">Try again</button></p>
    <p v-if="loaded && !shown.length && !error" class="soft">Nothing is open here: every tree that fits has a name that nothing speaks against.</p>
    <ul v-if="shown.length" class="rows" aria-label="Open trees">
      <OpenTree v-for="t in shown" :key="t.id" :tree="t" />
    </ul>
    <p v-if="list.length" class="soft more" role="status">
{{ list.length }} of {{ total }} open
      <button v-if="list.length < total" class="press" @click="fetch(list.length)">Show more</button>
</p>
    <p class="soft small">Take a twig home only where collecting is allowed, and cut none from a protected tree. Days to come back are the flora's calendar moved to where the tree stands, good to a week or so.</p>
  </PageFrame>
</template>

<style scoped>
.file {
  display: grid;
  grid-auto-flow: column;
  gap: 0.5rem;
  place-items: center;
  color: inherit;
  text-decoration: none;
}

.more {
  display: flex;
  gap: 1rem;
  align-items: center;
  justify-content: center;
}
</style>
