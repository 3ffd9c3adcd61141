<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Composition } from '../api/client'
import { capital, count, figure, percent } from '../frame/words'

const props = defineProps<{ composition: Composition }>()
const by = ref<'stems' | 'area'>('stems')
const all = ref(false)
const shown = 12

interface Bar {
  taxon: string
  english: string
  value: number
  from: number
  to: number
  determined: number
}

const bars = computed<Bar[]>(() =>
  (props.composition.shares ?? [])
    .map((s) =>
      by.value === 'stems'
        ? { ...s, value: s.stems, from: s.stems_from, to: s.stems_to }
        : { ...s, value: s.area_m2, from: s.area_from_m2, to: s.area_to_m2 },
    )
    .filter((b) => b.to > 0)
    .sort((a, b) => b.value - a.value),
)
const top = computed(() => Math.max(...bars.value.map((b) => b.to), 1e-9))
const total = computed(() => (by.value === 'stems' ? props.composition.trees : props.composition.area_m2))
const visible = computed(() => (all.value ? bars.value : bars.value.slice(0, shown)))
const at = (x: number) => `${(100 * x) / top.value}%`
const digits = computed(() => (by.value === 'stems' ? 0 : 2))
</script>

<template>
  <div class="chart">
    <p>
      <strong>{{ composition.trees }}</strong> trees,
      <strong>{{ percent(composition.trees ? composition.determined / composition.trees : 0) }}</strong> of them named to species with
      nothing against it; <strong>{{ figure(composition.area_m2) }} m²</strong> basal area of those measured.
      <template v-if="composition.heights">
        <strong>{{ figure(composition.heights.mean_m) }} m</strong> mean height of {{ count(composition.heights.trees, 'tree') }} measured,
        the tallest {{ figure(composition.heights.most_m) }} m<template v-if="composition.heights.lorey_m"
          >; {{ figure(composition.heights.lorey_m) }} m weighed by basal area</template
        >.
      </template>
    </p>
    <div role="group" aria-label="Count by" class="by">
      <button class="press" :aria-pressed="by === 'stems'" @click="by = 'stems'">By stems</button>
      <button class="press" :aria-pressed="by === 'area'" data-by="area" @click="by = 'area'">By basal area</button>
    </div>
    <p v-if="!composition.trees" class="soft">No trees here yet.</p>
    <table v-else>
      <caption class="sr-only">
        Composition by
        {{
          by === 'stems' ? 'stems' : 'basal area'
        }}
      </caption>
      <thead>
        <tr class="small soft">
          <th scope="col">Tree</th>
          <th scope="col">Probable {{ by === 'stems' ? 'stems' : 'm²' }}, with the 95 % range</th>
          <th scope="col" class="end">Share</th>
          <th scope="col" class="end">Named</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="b in visible" :key="b.taxon">
          <th scope="row">
            {{ capital(b.english) }}<span class="sci soft small">{{ b.taxon === 'unlisted' ? '' : b.taxon }}</span>
          </th>
          <td>
            <span class="bar" aria-hidden="true"
              ><span class="fill" :style="{ width: at(b.value) }"></span
              ><span class="range" :style="{ left: at(b.from), width: at(b.to - b.from) }"></span
            ></span>
            <span class="small"
              >{{ figure(b.value, by === 'stems' ? 1 : 2) }}
              <span class="soft">({{ figure(b.from, digits) }} to {{ figure(b.to, digits) }})</span></span
            >
          </td>
          <td class="end">{{ percent(total ? b.value / total : 0) }}</td>
          <td class="end">{{ b.determined }}</td>
        </tr>
      </tbody>
    </table>
    <button v-if="bars.length > shown" class="press" @click="all = !all">{{ all ? 'Fewer' : `All ${bars.length}` }}</button>
    <p class="small soft">{{ composition.note }}</p>
  </div>
</template>

<style scoped>
.chart {
  display: grid;
  gap: 0.5rem;
  justify-items: start;
  width: 100%;
}

.by {
  display: flex;
  gap: 0.25rem;
}

table {
  width: 100%;
  border-collapse: collapse;
}

th,
td {
  padding: 0.25rem 0.5rem;
  text-align: left;
  font-weight: 400;
  border-top: 1px solid var(--pt-line);
}

th[scope='row'] {
  width: 14rem;
}

th .sci {
  display: block;
}

.end {
  text-align: right;
  white-space: nowrap;
}

.bar {
  position: relative;
  display: block;
  height: 14px;
  border-radius: 3px;
  background: var(--pt-paper);
}

.fill {
  position: absolute;
  inset: 0 auto 0 0;
  border-radius: 3px;
  background: var(--pt-spruce);
}

.range {
  position: absolute;
  top: 5px;
  height: 4px;
  min-width: 2px;
  background: var(--pt-straw);
  outline: 1px solid var(--pt-straw-ink);
}

@media (max-width: 700px) {
  /* A row is read downwards: the name, the bar, then the two figures with their words. */
  thead {
    display: none;
  }

  tr {
    display: grid;
    grid-template-columns: 1fr auto;
    border-top: 1px solid var(--pt-line);
  }

  th,
  td {
    padding-inline: 0.25rem;
    border: 0;
  }

  th[scope='row'],
  td:nth-child(2) {
    grid-column: 1 / -1;
    width: auto;
  }

  td:nth-child(3)::before {
    content: 'share ';
  }

  td:nth-child(4)::before {
    content: 'named ';
  }
}
</style>
