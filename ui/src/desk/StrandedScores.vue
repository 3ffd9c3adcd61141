<script setup lang="ts">
import { computed } from 'vue'
import { useSession } from '../frame/session'
import { useTree } from './tree'

/** What one scored in a look that somebody else took back, perhaps on another device: it counts no more. */
const tree = useTree()
const session = useSession()
const mine = computed(() => (tree.view?.stranded ?? []).filter((s) => s.by === session.name || !session.session?.needed))
</script>

<template>
  <p v-for="s in mine" :key="s.entry" class="stranded" role="status" data-stranded>
    {{ s.took || 'Somebody' }} took back the observation that this was in, so it counts no more: {{ s.words }}, by
    {{ s.by || 'nobody named' }}. If it still holds, score it again.
  </p>
</template>

<style scoped>
.stranded {
  padding: 0.25rem 0.75rem;
  background: var(--pt-straw);
  color: var(--pt-straw-ink);
}
</style>
