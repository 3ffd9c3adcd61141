<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import PageFrame from '../frame/PageFrame.vue'
import PlateSet from '../plates/PlateSet.vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import TaxonPicker from './TaxonPicker.vue'
import { useFlora } from './flora'
import { useTree } from '../desk/tree'
import { capital, worth } from '../frame/words'

const route = useRoute()
const router = useRouter()
const flora = useFlora()
const tree = useTree()
const beside = ref<Schemas['Beside'] | null>(null)
const { wrong, ask } = useAsk()

const taxa = computed(() => {
  const asked = route.query.taxon
  return (Array.isArray(asked) ? asked : [asked]).filter((t): t is string => Boolean(t))
})
const treeId = computed(() => (typeof route.query.tree === 'string' ? route.query.tree : ''))
const among = computed(() => (treeId.value && tree.view ? tree.view.facts.among : flora.among))

async function load() {
  beside.value = null
  if (taxa.value.length < 2) return
  const { data } = await ask(api.GET('/api/flora/beside', { params: { query: { ...among.value, taxon: taxa.value } } }))
  beside.value = data ?? null
}
watch(() => [taxa.value, among.value], load, { immediate: true })

const plates = computed(() => beside.value?.plates ?? [])

function go(list: string[]) {
  void router.replace({ query: { ...route.query, taxon: list } })
}

/** Opens a difference for scoring at the tree that was left for this page. */
function score(character: string) {
  if (!treeId.value) return
  tree.wantedAfter = { character }
  void router.push(`/trees/${treeId.value}`)
}
</script>

<template>
  <PageFrame title="Side by side" hint="Only what they differ in, what tells most first" wide>
    <template v-if="treeId" #actions><RouterLink class="press" :to="`/trees/${treeId}`">Back to the tree</RouterLink></template>
    <SaidWrong :lines="wrong" again @again="load" />
    <TaxonPicker
      v-if="taxa.length < 4"
      id="add-taxon"
      class="adder"
      label="Add a tree to compare"
      :without="taxa"
      @pick="(t) => go([...taxa, t])"
    />
    <p v-if="taxa.length < 2" class="soft">Choose two to four trees.</p>
    <p v-if="taxa.length === 2">
      <RouterLink class="press go" :to="{ path: '/pair', query: { taxon: taxa } }" data-pair
        >Two of each, large, for showing to others</RouterLink
      >
    </p>
    <div v-if="beside" class="plates" :style="{ '--n': plates.length }">
      <div v-for="p in plates" :key="p.name" class="panel">
        <PlateSet :taxon="p.name" :region="among.region" :says="p.says" :marked="p.marked ?? []">
          <RouterLink :to="`/flora/${encodeURIComponent(p.name)}`">{{ capital(p.english) }}</RouterLink>
          <span class="sci small">{{ p.name }}</span>
        </PlateSet>
        <button v-if="taxa.length > 2" class="press quiet small" @click="go(taxa.filter((t) => t !== p.name))">Leave out</button>
      </div>
    </div>
    <p v-for="l in beside?.lines" :key="l" class="panel line">{{ l }}</p>
    <div v-if="beside" class="scroll">
      <table>
        <thead>
          <tr>
            <th scope="col">What to look at</th>
            <th v-for="p in plates" :key="p.name" scope="col">{{ capital(p.english) }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in beside.rows" :key="r.character">
            <th scope="row">
              <button v-if="treeId" class="press" @click="score(r.character)">{{ capital(r.name) }}</button>
              <RouterLink v-else :to="`/characters/${r.character}`">{{ capital(r.name) }}</RouterLink>
              <span class="soft small worth">{{ r.section_words }}, {{ worth(r.bits) }}</span>
            </th>
            <td v-for="(w, i) in r.words" :key="i">{{ w }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </PageFrame>
</template>

<style scoped>
.plates {
  display: grid;
  grid-template-columns: repeat(var(--n), minmax(0, 1fr));
  gap: 0.75rem;
}

.adder {
  max-width: 24rem;
}

.go {
  display: inline-grid;
  place-items: center;
  color: inherit;
  text-decoration: none;
}

.line {
  border-left: 5px solid var(--pt-spruce);
}

.scroll {
  overflow-x: auto;
}

table {
  border-collapse: collapse;
  width: 100%;
  background: var(--pt-snow);
}

th,
td {
  text-align: left;
  vertical-align: top;
  padding: 0.375rem 0.625rem;
  border: 1px solid var(--pt-line);
  font-weight: 400;
}

thead th {
  font-weight: 600;
}

.worth {
  display: block;
}

@media (max-width: 900px) {
  .plates {
    grid-template-columns: repeat(auto-fit, minmax(min(10rem, 100%), 1fr));
  }
}
</style>
