<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import PageFrame from '../frame/PageFrame.vue'
import PrintButton from '../frame/PrintButton.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import TreeFilter from './TreeFilter.vue'
import TreeRow from './TreeRow.vue'
import type { TreeLine } from '../api/client'
import { useSession } from '../frame/session'
import { useFilter } from './filter'
import { useTrees } from './trees'
import DueCards from '../practice/DueCards.vue'

const NewTree = defineAsyncComponent(() => import('./NewTree.vue'))
const store = useTrees()
const session = useSession()
const filter = useFilter('trees')
const route = useRoute()
const begin = computed(() => (typeof route.query.begin === 'string' ? route.query.begin : '')) // a label's tag
const starting = ref(Boolean(begin.value))
onMounted(store.again)

const filtered = computed(() => filter.on)
const bare = computed(() => store.loaded && store.total === 0 && !store.wrong.length)
const stands = computed(() => {
  const groups = new Map<string, TreeLine[]>()
  for (const t of store.trees) {
    const key = `${t.tract} · ${t.stand}`
    groups.set(key, [...(groups.get(key) ?? []), t])
  }
  return [...groups]
})
</script>

<template>
  <PageFrame title="Pale Thicket" hint="Naming leafless trees from whatever could be seen of them">
    <template #actions>
      <span class="does"
        ><RouterLink v-if="store.trees.length" class="press" to="/t" data-by-label
          ><i class="pi pi-qrcode" aria-hidden="true"></i> By its label</RouterLink
        >
        <PrintButton v-if="store.trees.length" :whole="store.all" />
        <button v-if="session.may('observer')" class="press" data-add-tree :aria-expanded="starting" @click="starting = !starting">
          <i class="pi pi-plus" aria-hidden="true"></i> Add a tagged tree
        </button></span
      >
    </template>
    <NewTree v-if="starting || (bare && !filtered && session.may('observer'))" :tagged="begin" />
    <TreeFilter v-if="!bare || filtered" page="trees" aside />
    <SaidWrong :lines="store.wrong" again @again="store.load" />
    <DueCards />
    <p v-if="bare" class="empty soft">
      <template v-if="filter.aside">No tree is set aside here.</template>
      <template v-else-if="filtered">No tree fits. Take a filter off, or search for part of the tag.</template>
      <template v-else
        >The book is empty. Press <RouterLink to="/name">Name a tree</RouterLink> and score whatever you can see. Do you have trees in a
        file? Use <RouterLink to="/files">Import and export</RouterLink>.</template
      >
    </p>
    <section v-for="[stand, trees] in stands" :key="stand" :aria-label="stand">
      <h2>{{ stand }}</h2>
      <ul class="rows">
        <TreeRow v-for="t in trees" :key="t.id" :tree="t" />
      </ul>
    </section>
    <p v-if="store.trees.length" class="soft more" role="status">
      {{ store.trees.length }} of {{ store.total }} {{ store.total === 1 ? 'tree' : 'trees' }}
      <button v-if="store.trees.length < store.total" class="press" @click="store.more">Show more</button>
    </p>
  </PageFrame>
</template>

<style scoped>
.does {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

h2 {
  font-size: 1.0625rem;
  margin-bottom: 0.5rem;
}

.empty {
  padding: 2rem 0;
}
</style>
