<script setup lang="ts">
import SaveFile from '../frame/SaveFile.vue'
import { ulid } from 'ulid'
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { useSession } from '../frame/session'
import { dayWords, figure } from '../frame/words'
import PlotForm from './PlotForm.vue'

/** Sample points of a stand: what each has, and what they add up to. */
const props = defineProps<{ tract: string; stand: string }>()
const emit = defineEmits<{ kept: [] }>()
const session = useSession()
const tally = ref<Schemas['PlotTally'] | null>(null)
const open = ref<Schemas['Plot'] | null>(null)
const { wrong, ask } = useAsk()
const here = computed(() => ({ tract: props.tract || undefined, stand: props.stand || undefined }))

async function load() {
  const { data } = await ask(api.GET('/api/plots', { params: { query: here.value } }))
  if (data) tally.value = data
}
watch(
  here,
  () => {
    open.value = null
    void load()
  },
  { immediate: true },
)

function begin() {
  const n = tally.value?.points?.length ?? 0
  const last = tally.value?.points?.at(-1)
  const now = new Date()
  const day = `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, '0')}-${String(now.getDate()).padStart(2, '0')}`
  const how = last?.radius ? { radius: last.radius } : { factor: last?.factor || '2 m2/ha' }
  open.value = { id: ulid(), tract: props.tract, stand: props.stand, name: `P${n + 1}`, day, stems: [], ...how }
}

async function kept() {
  open.value = null
  await load()
  emit('kept')
}
const search = computed(() => new URLSearchParams(Object.entries(here.value).filter((e): e is [string, string] => Boolean(e[1]))))
</script>

<template>
  <section class="plots" aria-label="Sample points" data-plots>
    <h3>
      Sample points
      <span class="acts">
        <SaveFile v-if="tally?.points?.length" :href="`/api/plots.csv?${search}`" name="plots.csv">Table (CSV)</SaveFile>
        <button v-if="stand && session.may('observer') && !open" class="press" data-new-plot @click="begin">Count from a point</button>
      </span>
    </h3>
    <SaidWrong :lines="wrong" again @again="load" />
    <PlotForm v-if="open" :key="open.id" :plot="open" @kept="kept" @leave="open = null" />
    <template v-if="tally?.points?.length">
      <p v-for="s in tally.says" :key="s">{{ s }}</p>
      <table data-tally>
        <thead>
          <tr class="small soft">
            <th scope="col">Tree</th>
            <th scope="col">Basal area, m²/ha (± standard error)</th>
            <th scope="col">Stems per hectare</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="t in tally.taxa?.slice(0, 12)" :key="t.taxon">
            <th scope="row">{{ t.words }}</th>
            <td>{{ t.area_m2_ha.words }}</td>
            <td>{{ t.stems_ha.words }}</td>
          </tr>
          <tr class="all">
            <th scope="row">All</th>
            <td>{{ tally.area_m2_ha.words }}</td>
            <td>{{ tally.stems_ha.words }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="tally.quadratic_cm" class="small soft">
        Quadratic mean diameter {{ figure(tally.quadratic_cm) }} cm<template v-if="tally.stand_density"
          >; stand density index {{ figure(tally.stand_density, 0) }} (Reineke 1933)</template
        >.
      </p>
      <ul class="rows">
        <li v-for="p in tally.points" :key="p.id">
          <button class="press quiet row" :disabled="!session.may('observer')" :data-plot="p.name" @click="open = { ...p }">
            <strong>{{ p.name }}</strong>
            <span class="small">{{ p.factor || `radius ${p.radius}` }}; {{ p.words }}</span>
            <span class="small soft">{{ dayWords(p.day) }}{{ stand ? '' : ` · ${p.stand}` }}</span>
          </button>
        </li>
      </ul>
    </template>
    <p v-else-if="tally" class="soft">
      None yet. {{ stand ? 'Count stems from a point with an angle gauge, or within a circle.' : 'Choose a stand to count from a point.' }}
    </p>
  </section>
</template>

<style scoped>
.plots {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.5rem;
  width: 100%;
}

h3,
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
  justify-content: space-between;
  font-size: 1.0625rem;
}

.acts {
  font-weight: 400;
  font-size: 1rem;
}

table {
  display: block;
  overflow-x: auto;
  border-collapse: collapse;
}

th,
td {
  padding: 0.25rem 1rem 0.25rem 0;
  text-align: left;
  border-top: 1px solid var(--pt-line);
  font-variant-numeric: tabular-nums;
}

th {
  font-weight: 500;
}

.all th,
.all td {
  font-weight: 600;
}

.row {
  display: grid;
  grid-template-columns: 4rem minmax(0, 1fr) 9rem;
  gap: 0.75rem;
  align-items: center;
  width: 100%;
  border-color: transparent;
  text-align: left;
}

@media (max-width: 700px) {
  .row {
    grid-template-columns: 3rem minmax(0, 1fr);
  }
}
</style>
