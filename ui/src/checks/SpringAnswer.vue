<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import SaidWrong from '../frame/SaidWrong.vue'
import { percent } from '../frame/words'
import ReliabilityCurve from './ReliabilityCurve.vue'

/** How often winter's names were right, by the trees that were seen in leaf since. */
const props = defineProps<{ spring: Schemas['FieldAccuracy'] | null; wrong: string[] }>()
const points = computed(() =>
  (props.spring?.bins ?? []).map((b) => ({ said: b.mean, p: b.right.p, from: b.right.from, to: b.right.to, n: b.right.of })),
)
const least = computed(() => Math.min(0.5, ...points.value.map((p) => Math.floor(p.said * 4) / 4)))
const share = (s: Schemas['ShareIn']) => `${s.n} of ${s.of}, ${percent(s.p)} (${percent(s.from)} to ${percent(s.to)})`
const groups = computed(() =>
  props.spring
    ? [
        { title: 'Who named', of: props.spring.by_observer ?? [] },
        { title: 'How far', of: props.spring.by_rank ?? [] },
        { title: 'What it was, the worst first', of: (props.spring.by_taxon ?? []).slice(0, 8) },
      ]
    : [],
)
</script>

<template>
  <section class="panel" aria-label="Spring’s answer" data-spring>
    <h2>Spring’s answer</h2>
    <SaidWrong :lines="wrong" />
    <template v-if="spring">
      <p v-if="!spring.confirmed" class="soft">
        No tree was confirmed yet. When one is seen in leaf, flower or fruit, write its name down with what was seen; then winter’s name is
        put to the proof here.
      </p>
      <p v-else-if="!spring.all.of" class="soft">
        {{ spring.confirmed }} trees were confirmed, and none of them had a winter’s name to prove.
      </p>
      <template v-else>
        <p v-for="s in spring.says" :key="s">{{ s }}</p>
        <div class="side">
          <figure>
            <ReliabilityCurve
              :points="points"
              :least="least"
              title="How often names given at a chance were right"
              across="Chance said when named"
              up="Right in spring"
            />
            <figcaption class="small soft">
              On the dashed line the chances are honest. Bars: 95 % (Wilson). The larger the dot, the more trees. Brier
              {{ spring.brier.toFixed(3) }}, 0 best.
            </figcaption>
          </figure>
          <div v-for="g in groups" :key="g.title">
            <h3>{{ g.title }}</h3>
            <dl>
              <template v-for="l in g.of" :key="l.name">
                <dt>{{ l.words || 'nobody’s name' }}</dt>
                <dd class="small">{{ share(l.right) }}</dd>
              </template>
            </dl>
          </div>
        </div>
      </template>
    </template>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 0.5rem;
}

h2 {
  font-size: 1.25rem;
}

h3 {
  font-size: 1rem;
}

figure {
  margin: 0;
  grid-area: span 2 / span 2;
}

@media (max-width: 700px) {
  figure {
    grid-area: auto;
  }
}

.side {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(12.5rem, 100%), 1fr));
  gap: 1rem;
}

dd {
  margin: 0 0 0.25rem;
}
</style>
