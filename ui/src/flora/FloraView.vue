<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import FloraFilter from './FloraFilter.vue'
import NameSearch from './NameSearch.vue'
import PlateWall from './PlateWall.vue'
import WhoseTrees from './WhoseTrees.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import PageFrame from '../frame/PageFrame.vue'
import type { TaxonLine } from '../api/client'
import { useVocabulary } from '../frame/vocabulary'
import { useFlora } from './flora'
import { capital } from '../frame/words'

const vocabulary = useVocabulary()
const flora = useFlora()
const wall = ref<'twig' | 'bark' | 'outline' | ''>('twig')
const walls = [
  { what: 'twig', words: 'Twigs' },
  { what: 'bark', words: 'Barks' },
  { what: 'outline', words: 'Outlines' },
  { what: '', words: 'Names' },
] as const
const filtering = ref(flora.shown.length > 0)
onMounted(flora.load)
watch(() => flora.among, flora.load)

const genera = computed(() => {
  const by = new Map<string, TaxonLine[]>()
  for (const t of [...flora.taxa].sort((a, b) => a.name.localeCompare(b.name))) {
    by.set(t.genus, [...(by.get(t.genus) ?? []), t])
  }
  return [...by]
})
const stateWords = (character: string, state: string) =>
  state === 'not-seen'
    ? vocabulary.words?.not_seen
    : (vocabulary.characters.get(character)?.states?.find((s) => s.id === state)?.words ?? state).toLowerCase()
const filtered = computed(() => flora.shown.length > 0)
</script>

<template>
  <PageFrame title="The flora" :hint="`${flora.taxa.length} trees, shrubs and vines, as they look without leaves`">
    <template #actions>
      <RouterLink class="press" to="/key" data-key>Print a key</RouterLink>
      <WhoseTrees />
    </template>
    <NameSearch />
    <SaidWrong :lines="flora.wrong" again @again="flora.load" />
    <div class="bar">
      <button class="press" :aria-expanded="filtering" @click="filtering = !filtering">
        <i class="pi pi-filter" aria-hidden="true"></i> Only those that show…
      </button>
      <span class="walls" role="group" aria-label="Shown as">
        <button v-for="w in walls" :key="w.what" class="press" :aria-pressed="wall === w.what" :data-wall="w.what" @click="wall = w.what">
          {{ w.words }}
        </button>
      </span>
      <button v-for="s in flora.shown" :key="s.character" class="press chip" @click="flora.drop(s.character)">
        {{ capital(vocabulary.characterName(s.character)) }}: {{ stateWords(s.character, s.state) }}
        <i class="pi pi-times" aria-label="remove"></i>
      </button>
    </div>
    <FloraFilter v-if="filtering" />
    <PlateWall v-if="wall" :what="wall" />
    <ul v-else-if="filtered" class="panel rows" aria-label="Trees that show it">
      <li v-for="t in flora.taxa" :key="t.name">
        <RouterLink :to="`/flora/${encodeURIComponent(t.name)}`"
          ><strong>{{ capital(t.english) }}</strong> <span class="sci">{{ t.name }}</span></RouterLink
        >
        <span class="small soft">{{ t.common }}, {{ t.status }}<template v-if="!t.known">; not all of it is known</template></span>
      </li>
      <li v-if="!flora.taxa.length" class="soft">No tree here shows all of these. Take one away.</li>
    </ul>
    <div v-else class="genera">
      <section v-for="[genus, trees] in genera" :key="genus" :aria-label="capital(trees[0].genus_english)">
        <h2>
          {{ capital(trees[0].genus_english) }} <span class="sci">{{ genus }}</span>
        </h2>
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
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

.walls {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem;
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
