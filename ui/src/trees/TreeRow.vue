<script setup lang="ts">
import { computed } from 'vue'
import type { TreeLine } from '../api/client'
import { useVocabulary } from '../frame/vocabulary'
import { dayWords, percent } from '../frame/words'

const props = defineProps<{ tree: TreeLine }>()
const vocabulary = useVocabulary()

const status = computed(() => vocabulary.status(props.tree.status))
const date = computed(() => (props.tree.last ? dayWords(props.tree.last) : ''))
</script>

<template>
  <li>
    <RouterLink :to="{ name: 'tree', params: { id: tree.id } }">
      <span class="tag"
        ><span class="sign" :class="tree.status" :title="status?.words" role="img" :aria-label="status?.words">{{ status?.sign }}</span>
        {{ tree.tag }}</span
      >
      <span class="words">
        <span :class="{ settled: tree.settled || tree.given_seen, odd: tree.named_rank === 'unlisted' && !tree.given_seen }">{{
          tree.words
        }}</span>
        <template v-if="tree.given_seen"
          ><span v-if="tree.given_rank === 'species'" class="sci soft small">{{ tree.given }}</span></template
        >
        <span v-else-if="tree.named_rank === 'species'" class="sci soft small">{{ tree.named }}</span>
        <span v-else-if="tree.probable_rank === 'species'" class="sci soft small">{{ tree.probable }}</span>
        <span v-if="tree.strangers" class="doubt small">a look may be of another tree</span>
      </span>
      <span class="chance">
        <template v-if="tree.given_seen"></template>
        <template v-else-if="tree.probable">{{ percent(tree.probable_posterior) }}</template>
        <template v-else-if="tree.settled">{{ percent(tree.named_posterior) }}</template>
      </span>
      <span class="given small soft">
        <template v-if="tree.given_rank"
          >written down: {{ tree.given_words
          }}<span v-if="tree.given_step === 'not-yet'" class="doubt" :title="tree.doubt"> in doubt</span></template
        >
        <template v-else>no name written down</template>
      </span>
      <span class="date small soft">{{ date }}</span>
    </RouterLink>
  </li>
</template>

<style scoped>
a {
  display: grid;
  grid-template-columns: 7rem 1fr 4rem 14rem 6.5rem;
  gap: 0.75rem;
  align-items: center;
  min-height: 52px;
  padding: 0.375rem 1rem;
  color: inherit;
  text-decoration: none;
}

a:hover {
  background: var(--pt-spruce-pale);
}

.tag {
  font-weight: 700;
}

.words {
  display: flex;
  flex-wrap: wrap;
  gap: 0 0.5rem;
  align-items: baseline;
}

.settled {
  color: var(--pt-spruce);
  font-weight: 600;
}

.odd {
  color: var(--pt-sumac);
  font-weight: 600;
}

.doubt {
  display: inline-block;
  margin-left: 0.5rem;
  padding: 0 0.5rem;
  border-radius: 6px;
  background: var(--pt-straw);
  color: var(--pt-straw-ink);
}

.chance,
.date {
  text-align: right;
}

@media (max-width: 700px) {
  a {
    display: flex;
    flex-wrap: wrap;
    gap: 0 0.75rem;
    padding: 0.5rem 0.75rem;
  }

  .tag {
    min-width: 4rem;
  }

  .words {
    flex: 1 1 9rem;
  }

  .given {
    flex-basis: 100%;
  }

  .date {
    display: none;
  }
}
</style>
