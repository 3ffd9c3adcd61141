<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import PageFrame from '../components/PageFrame.vue'
import NewTree from '../components/NewTree.vue'
import TreeRow from '../components/TreeRow.vue'
import type { TreeLine } from '../api/client'
import { useTrees } from '../stores/trees'

const store = useTrees()
const starting = ref(false)
onMounted(store.load)

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
      <button class="press lead" :aria-expanded="starting" @click="starting = !starting">
        <i class="pi pi-plus" aria-hidden="true"></i> Start a tree
      </button>
    </template>
    <NewTree v-if="starting || (store.loaded && store.total === 0 && !store.error)" />
    <p v-if="store.error" class="wrong" role="alert">{{ store.error }} <button class="press" @click="store.load">Try again</button></p>
    <p v-if="store.loaded && store.total === 0 && !store.error" class="empty soft">
      The book is empty. Start the first tree: give it the tag you hang on it, then score whatever you can see.
    </p>
    <section v-for="[stand, trees] in stands" :key="stand" :aria-label="stand">
      <h2>{{ stand }} <span class="soft small">{{ trees.length }} {{ trees.length === 1 ? 'tree' : 'trees' }}</span></h2>
      <ul>
        <TreeRow v-for="t in trees" :key="t.id" :tree="t" />
      </ul>
    </section>
  </PageFrame>
</template>

<style scoped>
h2 {
  font-size: 1.0625rem;
  margin-bottom: 0.5rem;
}

ul {
  border: 1px solid var(--pt-line);
  border-radius: 10px;
  background: var(--pt-snow);
  overflow: hidden;
}

.empty {
  padding: 2rem 0;
}
</style>
