<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import ReliabilityCurve from '../checks/ReliabilityCurve.vue'
import { saveAs } from '../frame/save'
import { useSession } from '../frame/session'
import { capital, count, dayWords, percent } from '../frame/words'
import { isAway } from '../woods/device'
import DueBars from './DueBars.vue'
import { usePractice } from './practice'

/** What one's answers say of oneself; others see it only where one shares it. */
const props = defineProps<{ figures: Schemas['Practised']; whose?: string }>()
defineEmits<{ forget: [] }>()
const practice = usePractice()
const session = useSession()
const most = 8
const worst = computed(() => (props.figures.taxa ?? []).filter((t) => t.right < t.n).slice(0, most))
const words = computed(() => (props.figures.words ?? []).filter((w) => w.right < w.n).slice(0, most))
const sure = computed(() => (props.figures.sure ?? []).filter((s) => s.n))
const points = computed(() =>
  sure.value.map((s) => ({ said: s.means, p: s.share.p, from: s.share.from, to: s.share.to, n: s.n, words: capital(s.sure) })),
)
const csv = computed(() => `/api/practice/answers.csv?${new URLSearchParams(session.name ? { by: session.name } : {})}`)

function save() {
  saveAs(new Blob([JSON.stringify(props.figures, null, 1)], { type: 'application/json' }), 'practice.json')
}
</script>

<template>
  <section class="panel" :aria-label="whose || 'Your own figures'">
    <h2>{{ whose || 'Your own figures' }}</h2>
    <p class="soft small">
      {{ count(figures.reviews, 'answer') }} so far.
      <template v-if="!whose && session.session?.needed"
        >They are yours: {{ figures.shared ? 'the leads see them, as you share them' : 'no page shows them to anybody else' }}.</template
      >
    </p>
    <div class="several">
      <div v-if="points.length">
        <h3>Is “sure” sure?</h3>
        <ReliabilityCurve
          :points="points"
          title="How often answers were right by how sure they were said"
          across="What the word means"
          up="Right"
        />
        <p v-for="s in sure" :key="s.sure" class="small">
          {{ capital(s.sure) }}: {{ s.right }} of {{ s.n }} right, {{ percent(s.right / s.n) }}; the word means {{ percent(s.means) }}
        </p>
        <p class="small soft">Brier score {{ figures.brier.toFixed(2) }}; 0 is best, 0.25 is what a coin gets.</p>
      </div>
      <div>
        <h3>Due</h3>
        <DueBars :due="figures.due ?? []" />
        <h3 v-if="figures.next?.length">Forgotten next</h3>
        <ul>
          <li v-for="n in (figures.next ?? []).slice(0, 6)" :key="n.card">
            {{ n.words }} <span class="small soft">known in {{ percent(n.recall) }} of cases, due {{ dayWords(n.due) }}</span>
          </li>
        </ul>
      </div>
      <div v-if="worst.length">
        <h3>Worth another look</h3>
        <ul>
          <li v-for="t in worst" :key="t.taxon">
            <RouterLink :to="`/flora/${encodeURIComponent(t.taxon)}`">{{ capital(t.english) }}</RouterLink>: {{ t.right }} of {{ t.n }}
          </li>
        </ul>
      </div>
      <div v-if="words.length">
        <h3>Words misread</h3>
        <ul>
          <li v-for="w in words" :key="w.character">
            <RouterLink :to="`/characters/${w.character}`">{{ w.words }}</RouterLink>: {{ w.right }} of {{ w.n }}
          </li>
        </ul>
      </div>
      <div v-if="figures.taken?.length">
        <h3>Taken for another</h3>
        <ul>
          <li v-for="t in figures.taken.slice(0, most)" :key="t.taxon + t.for">
            <RouterLink :to="{ path: '/pair', query: { taxon: [t.taxon, t.for] } }">{{ capital(t.english) }} for {{ t.for_is }}</RouterLink
            ><template v-if="t.n > 1">, {{ t.n }} times</template>
          </li>
        </ul>
      </div>
    </div>
    <p v-if="!whose" class="bar">
      <button class="press" @click="save">Save the figures (JSON)</button>
      <a v-if="!isAway()" class="press" :href="csv" download>Save all answers (CSV)</a>
      <button
        v-if="session.session?.needed && !isAway()"
        class="press"
        data-share
        :aria-pressed="figures.shared"
        @click="practice.share(!figures.shared)"
      >
        {{ figures.shared ? 'Shared with the leads' : 'Share with the leads' }}
      </button>
      <button class="press" data-forget @click="$emit('forget')">Erase all I practised</button>
    </p>
  </section>
</template>

<style scoped>
.several {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(18rem, 100%), 1fr));
  gap: 1rem;
}

h3 {
  font-size: 1rem;
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
