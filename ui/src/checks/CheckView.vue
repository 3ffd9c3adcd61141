<script setup lang="ts">
import { computed, watch } from 'vue'
import type { Schemas } from '../api/client'
import PageFrame from '../frame/PageFrame.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { capital, percent } from '../frame/words'
import ReportButton from '../stands/ReportButton.vue'
import { useChecks } from './checks'

const props = defineProps<{ id: string }>()
const checks = useChecks()
const r = computed(() => checks.results)
watch(
  () => props.id,
  (id) => void checks.read(id),
  { immediate: true },
)
const share = (s: Schemas['ShareIn']) => `${percent(s.p)} (${percent(s.from)} to ${percent(s.to)})`
const differ = computed(() => (r.value?.trees ?? []).filter((t) => t.how === 'other'))
const rest = computed(() => (r.value?.trees ?? []).filter((t) => t.how !== 'other'))
const hows = { same: 'the same', unnamed: 'not named again', coarser: '', other: '' }
</script>

<template>
  <PageFrame :title="r?.plan.name ?? 'Check cruise'" :hint="r ? `${r.plan.checker} named again what others had named` : ''" back="/checks">
    <template #actions>
      <span v-if="r" class="files">
        <a class="press" :href="`/api/checks/${id}/results.csv`" download><i class="pi pi-file" aria-hidden="true"></i> CSV</a>
        <ReportButton :href="`/api/checks/${id}/results.pdf`" name="check.pdf" />
      </span>
    </template>
    <SaidWrong :lines="checks.unread" />
    <template v-if="r">
      <section class="panel">
        <p v-for="s in r.says" :key="s">{{ s }}</p>
        <p class="small soft">
          Drawn with seed {{ r.plan.seed }}, by {{ r.plan.by }}, from {{ r.plan.there }} trees; ±{{ percent(r.plan.gives) }} where
          {{ percent(r.plan.expected) }} is expected.
        </p>
        <div class="sideways" tabindex="0" role="region" aria-label="Agreement by rank">
          <table>
            <thead>
              <tr class="small soft">
                <th scope="col">Rank</th>
                <th scope="col">The same</th>
                <th scope="col">Share, 95 %</th>
                <th scope="col">Kappa, 95 %</th>
                <th scope="col">Wanted</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="at in r.by_rank" :key="at.rank">
                <th scope="row">{{ capital(at.rank) }}</th>
                <template v-if="at.share.of">
                  <td>{{ at.share.n }} of {{ at.share.of }}</td>
                  <td>{{ share(at.share) }}</td>
                  <td>
                    <template v-if="!at.why">{{ at.kappa.toFixed(2) }} ({{ at.from.toFixed(2) }} to {{ at.to.toFixed(2) }})</template
                    ><span v-else class="small">{{ at.why }}</span>
                  </td>
                  <td>
                    <template v-if="at.wanted">{{ percent(at.wanted) }}: {{ at.meets }}</template>
                  </td>
                </template>
                <td v-else colspan="4" class="soft">no tree was named so far by both</td>
              </tr>
            </tbody>
          </table>
        </div>
        <p class="small soft">
          Kappa (Cohen 1960) is agreement beyond chance, 1 whole; its interval by the error of Fleiss, Cohen and Everitt 1969. Wanted: what
          national inventories ask for (from memory).
        </p>
      </section>
      <section v-if="r.refused?.length" class="panel wrong">
        <h2>Not everything could join the book</h2>
        <p v-for="why in r.refused" :key="why">{{ why }}</p>
      </section>
      <section class="panel">
        <h2>Named otherwise</h2>
        <p v-if="!differ.length">No tree.</p>
        <div v-else class="sideways" tabindex="0" role="region" aria-label="Trees named otherwise">
          <table>
            <thead>
              <tr class="small soft">
                <th scope="col">Tree</th>
                <th scope="col">First</th>
                <th scope="col">{{ r.plan.checker }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="t in differ" :key="t.id">
                <td>
                  <RouterLink :to="`/trees/${t.id}`">{{ t.tag }}</RouterLink> <span class="small soft">{{ t.stand }}</span>
                </td>
                <td>
                  {{ capital(t.first) }} <span class="small soft">{{ t.first_by }}</span>
                </td>
                <td>{{ capital(t.second) }}</td>
              </tr>
            </tbody>
          </table>
        </div>
        <details>
          <summary>The other {{ rest.length }} trees</summary>
          <ul>
            <li v-for="t in rest" :key="t.id">
              <RouterLink :to="`/trees/${t.id}`">{{ t.tag }}</RouterLink> {{ capital(t.first) }}:
              {{ hows[t.how] || capital(t.second) + ', which goes together with it' }}
            </li>
          </ul>
        </details>
      </section>
      <div class="two">
        <section class="panel">
          <h2>Confusion matrix</h2>
          <div class="sideways" tabindex="0" role="region" aria-label="Confusion matrix">
            <table>
              <thead>
                <tr class="small soft">
                  <th scope="col">First</th>
                  <th scope="col">{{ r.plan.checker }}</th>
                  <th scope="col">Trees</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="c in r.called" :key="c.first + c.second" :class="{ other: !c.same }">
                  <td>{{ c.first }}</td>
                  <td>{{ c.same ? 'the same' : c.second }}</td>
                  <td>{{ c.n }}</td>
                </tr>
              </tbody>
            </table>
          </div>
        </section>
        <section class="panel">
          <h2>What two people score the same</h2>
          <p v-if="!r.characters?.length" class="soft">No character was scored by both.</p>
          <dl>
            <template v-for="c in r.characters" :key="c.character">
              <dt>{{ c.words }}</dt>
              <dd class="small">{{ c.share.n }} of {{ c.share.of }}, {{ share(c.share) }}</dd>
            </template>
          </dl>
          <h2>Each observer</h2>
          <p v-for="o in r.observers" :key="o.name">{{ o.name }}: {{ percent(o.wrong) }} of genera wrong, of {{ o.trees }} trees</p>
          <p class="small soft">
            Nobody knows the truth here; it is found together with the errors from what all named (Dawid and Skene 1979). Of two people it
            says little.
          </p>
        </section>
      </div>
    </template>
  </PageFrame>
</template>

<style scoped>
h2 {
  font-size: 1.125rem;
}

.panel {
  display: grid;
  gap: 0.5rem;
  align-content: start;
}

.files {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(20rem, 100%), 1fr));
  gap: 1rem;
}

table {
  border-collapse: collapse;
}

th,
td {
  padding: 0.25rem 0.75rem 0.25rem 0;
  text-align: left;
  vertical-align: baseline;
  border-top: 1px solid var(--pt-line);
}

.other {
  font-weight: 600;
}

dd {
  margin: 0 0 0.25rem;
}

li {
  min-height: 2rem;
}
</style>
