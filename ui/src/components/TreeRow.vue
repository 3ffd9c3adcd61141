<script setup lang="ts">
import { computed } from 'vue'
import type { TreeLine } from '../api/client'
import { useDesk } from '../stores/desk'
import { capital, percent } from '../words'

const props = defineProps<{ tree: TreeLine }>()
const desk = useDesk()

const named = computed(() => props.tree.named)
const settled = computed(() => !['undetermined', 'unlisted'].includes(named.value.rank))
const words = computed(() =>
  settled.value || named.value.rank === 'unlisted'
    ? capital(named.value.words)
    : props.tree.scores > 0
      ? `Not yet named; ${desk.english(props.tree.leader)} leads`
      : 'Nothing scored yet',
)
const given = computed(() => {
  const g = props.tree.given
  if (!g) return ''
  return g.rank === 'species' ? desk.english(g.name) : g.rank === 'undetermined' ? 'undetermined' : g.name
})
const date = computed(() =>
  props.tree.scores > 0 || props.tree.given ? new Date(props.tree.last).toLocaleDateString(undefined, { day: 'numeric', month: 'short', year: 'numeric' }) : '',
)
</script>

<template>
  <li>
    <RouterLink :to="{ name: 'tree', params: { id: tree.id } }">
      <span class="tag">{{ tree.tag }}</span>
      <span class="words">
        <span :class="{ settled, odd: named.rank === 'unlisted' }">{{ words }}</span>
        <span v-if="named.rank === 'species'" class="sci soft small">{{ named.name }}</span>
        <span v-if="tree.doubts" class="doubt small">a look may be of another tree</span>
      </span>
      <span class="share">
        <template v-if="settled">{{ percent(named.posterior) }}</template>
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
li + li {
  border-top: 1px solid var(--pt-line);
}

a {
  display: grid;
  grid-template-columns: 6rem 1fr 4rem 14rem 6.5rem;
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
