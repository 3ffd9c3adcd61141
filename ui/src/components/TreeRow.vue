<script setup lang="ts">
import { computed } from 'vue'
import type { TreeLine } from '../api/client'
import { useDesk } from '../stores/desk'
import { capital, dayWords, percent, statusOf } from '../words'

const props = defineProps<{ tree: TreeLine }>()
const desk = useDesk()

const settled = computed(() => !['undetermined', 'unlisted'].includes(props.tree.named_rank))
const status = computed(() => statusOf(props.tree.status))
const words = computed(() =>
  settled.value || props.tree.named_rank === 'unlisted'
    ? capital(props.tree.named_words)
    : props.tree.scores > 0
      ? `Not yet named; ${desk.english(props.tree.leader)} leads`
      : 'Nothing scored yet',
)
const given = computed(() => {
  const t = props.tree
  if (!t.given_rank) return ''
  return t.given_rank === 'species' ? desk.english(t.given) : t.given_rank === 'undetermined' ? 'undetermined' : t.given
})
const date = computed(() => (props.tree.last ? dayWords(props.tree.last) : ''))
</script>

<template>
  <li>
    <RouterLink :to="{ name: 'tree', params: { id: tree.id } }">
      <span class="tag"><span class="sign" :class="status.id" :title="status.label" role="img" :aria-label="status.label">{{ status.sign }}</span> {{ tree.tag }}</span>
      <span class="words">
        <span :class="{ settled, odd: tree.named_rank === 'unlisted' }">{{ words }}</span>
        <span v-if="tree.named_rank === 'species'" class="sci soft small">{{ tree.named }}</span>
        <span v-if="tree.doubts" class="doubt small">a look may be of another tree</span>
      </span>
      <span class="share">
        <template v-if="settled">{{ percent(tree.named_posterior) }}</template>
      </span>
      <span class="given small soft">
        <template v-if="given">written down: {{ given }}<span v-if="tree.doubt" class="doubt" :title="tree.doubt"> in doubt</span></template>
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

.share,
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
