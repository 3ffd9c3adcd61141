<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import CompositionChart from './CompositionChart.vue'
import { useAsk } from '../frame/ask'
import PageFrame from '../frame/PageFrame.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import PlotsPanel from './PlotsPanel.vue'
import ReportButton from './ReportButton.vue'
import StandEdit from './StandEdit.vue'
import SugarPanel from './SugarPanel.vue'
import VisitList from './VisitList.vue'
import { api, type Composition, type Schemas } from '../api/client'
import { useSession } from '../frame/session'
import { useFilter } from '../trees/filter'
import { count, figure } from '../frame/words'

const session = useSession()
const filter = useFilter('stands')
const land = ref<Schemas['Map'] | null>(null)
const made = ref<Composition | null>(null)
const editing = ref(false)
const { wrong, ask } = useAsk()
const sums = useAsk()

const tract = computed(() => land.value?.tracts?.find((t) => t.tract === filter.tract))
const stand = computed(() => land.value?.stands?.find((s) => s.tract === filter.tract && s.stand === filter.stand))
const report = (kind: string) =>
  `/api/report.${kind}?${new URLSearchParams(Object.entries(filter.where).filter((e): e is [string, string] => Boolean(e[1])))}`

async function load() {
  const { data } = await ask(api.GET('/api/map'))
  if (!data) return
  land.value = data
  const first = data.stands?.[0]
  if (!filter.tract && first) filter.choose(first.tract, '')
  await add()
}

async function kept(tract: string, stand: string) {
  filter.choose(tract, stand)
  await load()
}

async function add() {
  const { data } = await sums.ask(api.GET('/api/composition', { params: { query: filter.where } }))
  if (data) made.value = data
}
onMounted(load)
watch(
  () => filter.where,
  () => {
    editing.value = false
    void add()
  },
)
</script>

<template>
  <PageFrame title="Stands" hint="What grows where, and when it was looked at" wide>
    <template #actions>
      <span class="reports"
        ><RouterLink v-if="filter.tract" class="press" :to="{ path: '/key', query: filter.where }" data-key-of-stand>Key to it</RouterLink>
        <a class="press file" :href="report('html')" target="_blank"><i class="pi pi-file" aria-hidden="true"></i> Report</a>
        <ReportButton :href="report('pdf')" name="report.pdf"
      /></span>
    </template>
    <SaidWrong :lines="[...wrong, ...sums.wrong.value]" again @again="load" />
    <p v-if="land && !land.stands?.length" class="soft">There are no stands yet. One is made when its first tree is started.</p>
    <div v-if="land?.stands?.length" class="halves">
      <nav aria-label="Stands">
        <template v-for="t in land.tracts" :key="t.tract">
          <button class="press row" :aria-pressed="filter.tract === t.tract && !filter.stand" @click="filter.choose(t.tract, '')">
            <strong>{{ t.tract }}</strong><span class="soft small"
              ><template v-if="t.hectares">{{ figure(t.hectares) }} ha</template></span
            >
          </button>
          <button
            v-for="s in land.stands.filter((s) => s.tract === t.tract)"
            :key="s.stand"
            class="press row inner"
            :data-stand="s.stand"
            :aria-pressed="filter.tract === s.tract && filter.stand === s.stand"
            @click="filter.choose(s.tract, s.stand)"
          >
            <span>{{ s.stand }}</span>
            <span class="soft small"
              >{{ count(s.trees, 'tree') }}, {{ s.open }} open<template v-if="s.hectares"> · {{ figure(s.hectares) }} ha</template></span
            >
          </button>
        </template>
      </nav>
      <section aria-label="What grows here">
        <h2>{{ filter.stand || filter.tract || 'The whole book' }}</h2>
        <p v-if="stand?.remarks || (!filter.stand && tract?.remarks)">{{ stand?.remarks || tract?.remarks }}</p>
        <button
          v-if="filter.tract && session.may('lead')"
          class="press"
          data-edit-place
          :aria-expanded="editing"
          @click="editing = !editing"
        >
          Name, remarks and boundary
        </button>
        <StandEdit
          v-if="editing"
          :tract="filter.tract"
          :stand="filter.stand"
          :remarks="(filter.stand ? stand?.remarks : tract?.remarks) ?? ''"
          @kept="kept"
        />
        <CompositionChart v-if="made" :composition="made" />
        <PlotsPanel :tract="filter.tract" :stand="filter.stand" @kept="add" />
        <SugarPanel :tract="filter.tract" :stand="filter.stand" />
        <VisitList :tract="filter.tract" />
      </section>
    </div>
  </PageFrame>
</template>

<style scoped>
.halves {
  display: grid;
  grid-template-columns: 19rem minmax(0, 1fr);
  gap: 1.25rem;
  align-items: start;
}

.halves > * {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.5rem;
  justify-items: start;
}

.halves nav {
  gap: 0.25rem;
}

.row {
  display: grid;
  justify-items: start;
  width: 100%;
  text-align: left;
}

.inner {
  margin-left: 1rem;
  width: calc(100% - 1rem);
}

.reports {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

h2 {
  font-size: 1.25rem;
}

@media (max-width: 800px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
