<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import PageFrame from '../components/PageFrame.vue'
import PlateSet from '../components/PlateSet.vue'
import { api, problemLines, type Schemas } from '../api/client'
import { differences, showsOfPlate } from '../plates/shows'
import { useDesk } from '../stores/desk'
import { useFlora } from '../stores/flora'
import { useTree } from '../stores/tree'
import { capital, sectionWord } from '../words'

const route = useRoute()
const router = useRouter()
const desk = useDesk()
const flora = useFlora()
const tree = useTree()
const beside = ref<Schemas['Beside'] | null>(null)
const error = ref('')
const adding = ref('')

const taxa = computed(() => {
  const asked = route.query.taxon
  return (Array.isArray(asked) ? asked : [asked]).filter((t): t is string => Boolean(t))
})
const treeId = computed(() => (typeof route.query.tree === 'string' ? route.query.tree : ''))
const pool = computed(() => (treeId.value && tree.view ? tree.view.facts.region || tree.view.tree.region : flora.pool))

async function load() {
  error.value = ''
  if (taxa.value.length < 2) {
    beside.value = null
    return
  }
  try {
    const { data, error: problem } = await api.GET('/api/flora/beside', { params: { query: { pool: pool.value, taxon: taxa.value } } })
    beside.value = data ?? null
    if (problem) error.value = problemLines(problem).join(' ')
  } catch {
    error.value = 'No connection to the book.'
  }
}
watch(() => [taxa.value, pool.value], load, { immediate: true })

const plates = computed(() => (beside.value?.plates ?? []).map((p) => ({ ...p, map: showsOfPlate(p) })))
const marked = computed(() =>
  plates.value.map((p, i) => plates.value.flatMap((o, j) => (i === j ? [] : differences(p.map, o.map)))),
)
const names = computed(() => [...desk.taxa.keys()].filter((n) => !taxa.value.includes(n)))

function go(list: string[]) {
  void router.replace({ query: { ...route.query, taxon: list } })
}

function add() {
  const named = names.value.find((n) => n.toLowerCase() === adding.value.trim().toLowerCase() || desk.english(n).toLowerCase() === adding.value.trim().toLowerCase())
  if (!named) return
  adding.value = ''
  go([...taxa.value, named])
}

/** Opens a difference for scoring at the tree that was left for this page. */
function score(character: string) {
  if (!treeId.value) return
  tree.wantedAfter = character
  void router.push(`/trees/${treeId.value}`)
}
</script>

<template>
  <PageFrame title="Side by side" hint="Only what they differ in, what tells most first" wide>
    <template v-if="treeId" #actions><RouterLink class="press" :to="`/trees/${treeId}`">Back to the tree</RouterLink></template>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <form v-if="taxa.length < 4" class="adder" @submit.prevent="add">
      <label class="field"><span>Add a tree to compare</span>
        <input v-model="adding" list="compare-names" autocomplete="off" @change="add" /></label>
      <datalist id="compare-names"><option v-for="n in names" :key="n" :value="n">{{ desk.english(n) }}</option></datalist>
    </form>
    <p v-if="taxa.length < 2" class="soft">Choose two to four trees.</p>
    <div v-if="beside" class="plates" :style="{ '--n': plates.length }">
      <div v-for="(p, i) in plates" :key="p.name" class="panel">
        <PlateSet :shows="p.map" :title="p.english" :marked="marked[i]">
          <RouterLink :to="`/flora/${encodeURIComponent(p.name)}`">{{ capital(p.english) }}</RouterLink> <span class="sci small">{{ p.name }}</span>
        </PlateSet>
        <button v-if="taxa.length > 2" class="press quiet small" @click="go(taxa.filter((t) => t !== p.name))">Leave out</button>
      </div>
    </div>
    <p v-for="l in beside?.lines" :key="l" class="panel line">{{ l }}</p>
    <div v-if="beside" class="scroll">
      <table>
        <thead>
          <tr><th scope="col">What to look at</th><th v-for="p in plates" :key="p.name" scope="col">{{ capital(p.english) }}</th></tr>
        </thead>
        <tbody>
          <tr v-for="r in beside.rows" :key="r.character">
            <th scope="row">
              <button v-if="treeId" class="press" @click="score(r.character)">{{ capital(r.name) }}</button>
              <RouterLink v-else :to="`/characters/${r.character}`">{{ capital(r.name) }}</RouterLink>
              <span class="soft small worth">{{ sectionWord(r.section) }}, {{ r.bits.toFixed(1) }} bits</span>
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
