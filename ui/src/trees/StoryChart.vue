<script setup lang="ts">
import { computed } from 'vue'
import type { Story } from '../api/client'
import { useVocabulary } from '../frame/vocabulary'
import { capital, percent } from '../frame/words'

const props = defineProps<{ story: Story }>()
const width = 640
const height = 170
const most = 5

/** The steps that can change the standing. */
const steps = computed(() => (props.story.steps ?? []).filter((s) => s.kind === 'score' || s.kind === 'withdraw' || s.kind === 'name'))
const x = (i: number) => (steps.value.length < 2 ? width : (i * width) / (steps.value.length - 1))
const y = (p: number) => height - p * (height - 10) - 2
const lines = computed(() =>
  (props.story.taxa ?? [])
    .map((taxon, t) => ({ ...taxon, t }))
    .sort((a, b) => b.posterior - a.posterior)
    .slice(0, most)
    .map((l, n) => ({
      ...l,
      n,
      d: steps.value.map((s, i) => `${i ? 'L' : 'M'}${x(i).toFixed(1)} ${y(s.posteriors?.[l.t] ?? 0).toFixed(1)}`).join(''),
    })),
)
const names = computed(() => steps.value.map((s, i) => ({ s, i })).filter(({ s }) => s.kind === 'name'))
const vocabulary = useVocabulary()
const probable = computed(() => vocabulary.words?.bars.probably ?? 0)
const species = computed(() => vocabulary.words?.bars.named?.find((b) => b.rank === 'species')?.p ?? 1)
const dashes = ['', '7 4', '2 4', '10 3 2 3', '1 6']
</script>

<template>
  <figure class="panel">
    <figcaption>
      <strong>How it stood, score by score</strong>
      <span class="soft small">Each line is a tree that led at some time; a flag is a name written down.</span>
    </figcaption>
    <svg
      :viewBox="`0 0 ${width} ${height}`"
      preserveAspectRatio="none"
      role="img"
      :aria-label="lines.map((l) => `${l.english} now ${percent(l.posterior)}`).join(', ')"
    >
      <line
        v-for="p in [0, probable, species, 1]"
        :key="p"
        x1="0"
        :x2="width"
        :y1="y(p)"
        :y2="y(p)"
        class="grid"
        :class="{ bar: p === species || p === probable }"
      />
      <line
        v-for="n in names"
        :key="n.s.entry"
        :x1="x(n.i)"
        :x2="x(n.i)"
        y1="0"
        :y2="height"
        class="flag"
        :class="{ doubted: n.s.step === 'not-yet' }"
      />
      <path v-for="l in lines" :key="l.taxon" :d="l.d" class="line" :class="`n${l.n}`" :stroke-dasharray="dashes[l.n]" />
    </svg>
    <ul class="small">
      <li v-for="l in lines" :key="l.taxon">
        <svg width="34" height="10" aria-hidden="true">
          <path d="M0 5H34" class="line" :class="`n${l.n}`" :stroke-dasharray="dashes[l.n]" />
        </svg>
        {{ capital(l.english) }} <span class="soft">{{ percent(l.posterior) }}</span>
      </li>
      <li class="soft">
        The upper line is {{ percent(species) }}, what a species name takes; from the lower, {{ percent(probable) }}, it is probable.
      </li>
    </ul>
  </figure>
</template>

<style scoped>
figure {
  display: grid;
  gap: 0.5rem;
  margin: 0;
}

figure > svg {
  width: 100%;
  height: 11rem;
}

.line {
  fill: none;
  stroke: var(--pt-soft);
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
}

.n0 {
  stroke: var(--pt-spruce);
  stroke-width: 3;
}

.n1 {
  stroke: var(--pt-bark);
}

.n2 {
  stroke: var(--pt-sumac);
}

.grid {
  stroke: var(--pt-line);
  vector-effect: non-scaling-stroke;
}

.bar {
  stroke: var(--pt-spruce);
  stroke-dasharray: 3 5;
}

.flag {
  stroke: var(--pt-spruce);
  stroke-width: 2;
  opacity: 0.5;
  vector-effect: non-scaling-stroke;
}

.doubted {
  stroke: var(--pt-sumac);
}

ul {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 1.25rem;
}

li {
  display: flex;
  gap: 0.375rem;
  align-items: center;
}
</style>
