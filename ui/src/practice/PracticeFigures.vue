<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { saveAs } from '../frame/save'
import { capital, count, percent } from '../frame/words'

/** What one's answers say of oneself; nobody else sees it. */
const props = defineProps<{ figures: Schemas['Practised'] }>()
defineEmits<{ forget: [] }>()
const worst = computed(() => (props.figures.taxa ?? []).filter((t) => t.right < t.n).slice(0, 8))

function save() {
  saveAs(new Blob([JSON.stringify(props.figures, null, 1)], { type: 'application/json' }), 'practice.json')
}
</script>

<template>
  <section class="panel" aria-label="Your own figures">
    <h2>Your own figures</h2>
    <p class="soft small">{{ count(figures.reviews, 'answer') }} so far. They are yours: no page shows them to anybody else.</p>
    <div class="three">
      <div>
        <h3>Is “sure” sure?</h3>
        <table>
          <tbody>
            <tr v-for="s in figures.sure" :key="s.sure">
              <th scope="row">{{ capital(s.sure) }}</th>
              <td>
                <template v-if="s.n"
                  >{{ s.right }} of {{ s.n }} right, {{ percent(s.right / s.n) }}; the word means {{ percent(s.means) }}</template
                >
                <template v-else>not said yet</template>
              </td>
            </tr>
          </tbody>
        </table>
        <p class="small soft">Brier score {{ figures.brier.toFixed(2) }}; 0 is best, 0.25 is what a coin gets.</p>
      </div>
      <div v-if="worst.length">
        <h3>Worth another look</h3>
        <ul>
          <li v-for="t in worst" :key="t.taxon">
            <RouterLink :to="`/flora/${encodeURIComponent(t.taxon)}`">{{ capital(t.english) }}</RouterLink>: {{ t.right }} of {{ t.n }}
          </li>
        </ul>
      </div>
      <div v-if="figures.taken?.length">
        <h3>Taken for another</h3>
        <ul>
          <li v-for="t in figures.taken.slice(0, 8)" :key="t.taxon + t.for">
            <RouterLink :to="{ path: '/pair', query: { taxon: [t.taxon, t.for] } }">{{ capital(t.english) }} for {{ t.for_is }}</RouterLink
            ><template v-if="t.n > 1">, {{ t.n }} times</template>
          </li>
        </ul>
      </div>
    </div>
    <p class="bar">
      <button class="press" @click="save">Save them to a file</button>
      <button class="press" data-forget @click="$emit('forget')">Erase all I practised</button>
    </p>
  </section>
</template>

<style scoped>
.three {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(17rem, 100%), 1fr));
  gap: 1rem;
}

h3 {
  font-size: 1rem;
}

th {
  text-align: left;
  padding-right: 0.75rem;
}

li {
  min-height: 2rem;
}

.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}
</style>
