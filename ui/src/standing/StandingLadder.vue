<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { percent } from '../frame/words'

const props = defineProps<{ ranking: Schemas['Ranked'][]; credible: number }>()
defineEmits<{ why: [taxon: string] }>()
const more = ref(false)
const few = 6
const shown = computed(() => {
  if (more.value) return props.ranking.slice(0, 25)
  return props.ranking.slice(0, few)
})
const rest = computed(() => props.ranking.slice(shown.value.length).reduce((sum, r) => sum + r.posterior, 0))
</script>

<template>
  <section aria-label="Ranking">
    <ol>
      <li
        v-for="(r, i) in shown"
        :key="r.taxon"
        :class="{ first: i === 0, unlisted: r.taxon === 'unlisted', last: i === credible - 1 && i < shown.length - 1 }"
      >
        <button v-tooltip.left="`For and against ${r.english}`" class="why" :data-why="r.taxon" @click="$emit('why', r.taxon)">
          <span class="bar" :style="{ width: `${Math.max(0.5, r.posterior * 100)}%` }"></span>
          <span class="who">
            {{ r.english }} <span v-if="r.taxon !== 'unlisted'" class="sci small soft">{{ r.taxon }}</span>
          </span>
          <span class="chance">{{ percent(r.posterior) }}</span>
        </button>
      </li>
    </ol>
    <p class="small soft">{{ credible === 1 ? 'The first alone holds' : `The first ${credible} together hold` }} 95 % of the chances.</p>
    <button class="press quiet small" :aria-expanded="more" @click="more = !more">
      {{ more ? 'Fewer' : `The others, ${percent(rest)} together` }}
    </button>
  </section>
</template>

<style scoped>
ol {
  display: grid;
  gap: 2px;
}

.why {
  position: relative;
  display: flex;
  width: 100%;
  justify-content: space-between;
  gap: 0.5rem;
  align-items: center;
  min-height: 44px;
  padding: 0 0.5rem;
  border: 0;
  border-radius: 5px;
  background: none;
  overflow: hidden;
  text-align: left;
  cursor: pointer;
}

.why:hover {
  outline: 1px solid var(--pt-bark);
}

@media (max-width: 900px) {
  .why {
    min-height: var(--pt-press);
  }
}

.bar {
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--pt-bark-pale);
  opacity: 0.55;
}

.last {
  border-bottom: 2px dashed var(--pt-bark-pale);
  padding-bottom: 2px;
}

.first .bar {
  background: var(--pt-spruce);
  opacity: 0.3;
}

.first .who {
  font-weight: 600;
}

.unlisted .bar {
  background: var(--pt-straw);
  opacity: 1;
}

.who,
.chance {
  position: relative;
}

.chance {
  white-space: nowrap;
}

.who {
  min-width: 0;
  line-height: 1.15;
}
</style>
