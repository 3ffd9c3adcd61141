<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import FloraFilter from '../components/FloraFilter.vue'
import NameSearch from '../components/NameSearch.vue'
import TwigSheet from '../components/TwigSheet.vue'
import PageFrame from '../components/PageFrame.vue'
import type { TaxonLine } from '../api/client'
import { useDesk } from '../stores/desk'
import { useFlora } from '../stores/flora'
import { capital, plain, regionWord } from '../words'

const desk = useDesk()
const flora = useFlora()
const twigs = ref(false)
const filtering = ref(flora.shown.length > 0)
onMounted(flora.load)

const genera = computed(() => {
  const by = new Map<string, TaxonLine[]>()
  for (const t of [...flora.taxa].sort((a, b) => a.name.localeCompare(b.name))) {
    by.set(t.genus, [...(by.get(t.genus) ?? []), t])
  }
  return [...by]
})
const filtered = computed(() => flora.shown.length > 0)
</script>

<template>
  <PageFrame title="The flora" :hint="`${flora.taxa.length} trees, shrubs and vines, as they look without leaves`">
    <template #actions>
      <label class="pool">Whose
        <select id="pool" v-model="flora.pool" @change="flora.load">
          <option v-for="p in desk.desk?.pools" :key="p" :value="p">{{ regionWord(p) }}</option>
        </select>
      </label>
    </template>
    <NameSearch />
    <p v-if="flora.error" class="wrong" role="alert">{{ flora.error }}</p>
    <div class="bar">
      <button class="press" :aria-expanded="filtering" @click="filtering = !filtering">
        <i class="pi pi-filter" aria-hidden="true"></i> Only those that show…
      </button>
      <button class="press" :aria-pressed="twigs" data-twigs @click="twigs = !twigs">As twigs</button>
      <button v-for="s in flora.shown" :key="s.character" class="press chip" @click="flora.drop(s.character)">
        {{ capital(desk.characters.get(s.character)?.name ?? s.character) }}: {{ plain(s.state) }} <i class="pi pi-times" aria-label="remove"></i>
      </button>
    </div>
    <FloraFilter v-if="filtering" />
    <TwigSheet v-if="twigs" />
    <ul v-else-if="filtered" class="panel rows" aria-label="Trees that show it">
      <li v-for="t in flora.taxa" :key="t.name">
        <RouterLink :to="`/flora/${encodeURIComponent(t.name)}`"><strong>{{ capital(t.english) }}</strong> <span class="sci">{{ t.name }}</span></RouterLink>
        <span class="small soft">{{ t.common }}, {{ t.status }}<template v-if="!t.known">; not all of it is known</template></span>
      </li>
      <li v-if="!flora.taxa.length" class="soft">No tree here shows all of these. Take one away.</li>
    </ul>
    <div v-else class="genera">
      <section v-for="[genus, trees] in genera" :key="genus" :aria-label="genus">
        <h2 class="sci">{{ genus }}</h2>
        <ul>
          <li v-for="t in trees" :key="t.name">
            <RouterLink :to="`/flora/${encodeURIComponent(t.name)}`">{{ capital(t.english) }}</RouterLink>
            <span class="small soft">{{ t.common }}</span>
          </li>
        </ul>
      </section>
    </div>
  </PageFrame>
</template>

<style scoped>
.pool {
  display: flex;
  gap: 0.5rem;
  align-items: center;
}

.pool select {
  min-height: var(--pt-press);
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: var(--pt-snow);
  padding: 0 0.75rem;
}

.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

.chip {
  background: var(--pt-spruce-pale);
  border-color: var(--pt-spruce);
}

.genera {
  columns: 15rem;
  column-gap: 1.25rem;
}

section {
  break-inside: avoid;
  margin-bottom: 0.75rem;
}

h2 {
  font-size: 1rem;
  border-bottom: 1px solid var(--pt-line);
}

li {
  display: flex;
  justify-content: space-between;
  gap: 0.5rem;
  align-items: center;
  min-height: 2rem;
}

.rows li {
  border-bottom: 1px solid var(--pt-line);
  min-height: 2.5rem;
}

.rows li:last-child {
  border-bottom: 0;
}

@media (max-width: 900px) {
  li {
    min-height: var(--pt-press);
  }
}
</style>
