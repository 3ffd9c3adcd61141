<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import { computed, onMounted } from 'vue'
import PageFrame from '../frame/PageFrame.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { capital, count, seconds } from '../frame/words'
import { usePracticeWalk } from './walk'

const props = defineProps<{ id: string }>()
const walks = usePracticeWalk()
const confirm = useConfirm()
const walk = computed(() => (walks.walk?.id === props.id ? walks.walk : null))
const spent = computed(() => (walk.value?.trees ?? []).reduce((all, t) => all + t.seconds, 0))
const named = computed(() => (walk.value?.trees ?? []).filter((t) => t.named).length)
const half = 70
onMounted(() => walks.load(props.id))

function end() {
  const left = (walk.value?.trees?.length ?? 0) - named.value
  confirm.require({
    header: 'End the walk?',
    message:
      (left ? `${count(left, 'tree')} ${left === 1 ? 'has' : 'have'} no name yet. ` : '') +
      'What the trees are is told then, and nothing more can be looked at.',
    acceptLabel: 'End it',
    rejectProps: { label: 'Go on', severity: 'secondary', outlined: true },
    defaultFocus: 'reject',
    accept: () => void walks.end(),
  })
}
</script>

<template>
  <PageFrame title="A walk" :hint="walk ? `Made of ${walk.made}` : ''" back="/practice/walks">
    <template #actions>
      <button v-if="walk && !walk.ended" class="press lead" data-end-walk :disabled="walks.busy" @click="end">End the walk</button>
    </template>
    <SaidWrong :lines="walks.wrong" again @again="walks.load(id)" />
    <div v-if="walk && !walk.ended" class="halves">
      <svg :viewBox="`${-half} ${-half} ${2 * half} ${2 * half}`" role="group" aria-label="Where the trees stand; north is up">
        <path :d="`M${-half} ${half / 3} Q0 ${half / 5} ${half} ${half / 2}`" class="creek" />
        <a v-for="t in walk.trees" :key="t.id" :href="`/trees/${t.id}`" @click.prevent="$router.push(`/trees/${t.id}`)">
          <circle :cx="t.x_m" :cy="-t.y_m" r="9.5" class="hit" />
          <circle :cx="t.x_m" :cy="-t.y_m" r="7" :class="{ named: t.named }" />
          <text :x="t.x_m" :y="-t.y_m + 3" text-anchor="middle" :class="{ named: t.named }">{{ t.n }}</text>
        </a>
      </svg>
      <section aria-label="Its trees">
        <p data-walked>{{ named }} of {{ walk.trees?.length }} named; {{ seconds(spent) }} spent on looking.</p>
        <ul class="rows">
          <li v-for="t in walk.trees" :key="t.id">
            <RouterLink :to="`/trees/${t.id}`">Tree {{ t.n }}</RouterLink>
            <span class="soft small"> {{ t.age }}; {{ seconds(t.seconds) }}{{ t.named ? `; ${t.named}` : '' }}</span>
          </li>
        </ul>
      </section>
    </div>
    <template v-if="walk?.ended && walks.account">
      <section class="panel" data-account>
        <p>
          <strong>{{ walks.account.right }} of {{ walks.account.trees?.length }} right.</strong> {{ seconds(walks.account.seconds) }} spent
          on looking; the program’s own order would have taken {{ seconds(walks.account.best_seconds) }}.
        </p>
      </section>
      <article v-for="t in walks.account.trees" :key="t.id" class="panel">
        <h2>
          <RouterLink :to="`/trees/${t.id}`">Tree {{ t.n }}</RouterLink
          >: {{ capital(t.english) }} <span class="sci small">{{ t.taxon }}</span>
        </h2>
        <p>
          <strong :class="{ wrong: t.verdict === 'wrong' }">{{ t.words }}</strong>
          <template v-if="t.named"> You wrote {{ t.named }}.</template>
          <template v-if="t.carries"> What you looked at carries {{ t.carries }}.</template>
          <template v-if="t.taken_for"> That was {{ t.taken_for }} lying below it.</template>
        </p>
        <p class="small">
          {{ seconds(t.seconds) }} spent; the program’s order,
          {{ (t.order ?? []).map((o) => o.toLowerCase()).join(', then ') || 'no look' }}: {{ seconds(t.best_seconds)
          }}<template v-if="t.best_name">, to {{ t.best_name }}</template
          >.
        </p>
        <ul v-if="t.misread?.length || t.nothing?.length || t.strangers?.length" class="small">
          <li v-for="m in t.misread" :key="m">Misread: {{ m }}</li>
          <li v-for="m in t.nothing" :key="m">Told nothing: {{ m.toLowerCase() }}</li>
          <li v-for="m in t.strangers" :key="m">A stranger’s: {{ m.toLowerCase() }}</li>
        </ul>
      </article>
    </template>
  </PageFrame>
</template>

<style scoped>
.halves {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(16rem, 1fr);
  gap: 1.25rem;
  align-items: start;
}

svg {
  width: 100%;
  max-height: 70vh;
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: var(--pt-paper);
}

.creek {
  fill: none;
  stroke: #3d7ea6;
  stroke-width: 1.5;
}

circle {
  fill: var(--pt-snow);
  stroke: var(--pt-spruce);
}

circle.hit {
  fill: transparent;
  stroke: none;
}

circle.named {
  fill: var(--pt-spruce);
}

text {
  font-size: 8px;
  fill: currentcolor;
}

text.named {
  fill: var(--pt-snow);
}

h2 {
  font-size: 1.125rem;
}

article {
  display: grid;
  gap: 0.25rem;
}

article ul {
  list-style: disc;
  padding-left: 1.25rem;
}

.rows li {
  padding: 0.375rem 0.75rem;
}

@media (max-width: 760px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
