<script setup lang="ts">
import { computed } from 'vue'
import { api } from '../api/client'
import { useAsk } from '../frame/ask'
import { useSession } from '../frame/session'
import { useTree } from './tree'

/** Two devices gave one tag to two trees: one press gives this one another. */
const tree = useTree()
const session = useSession()
const { wrong, busy, ask } = useAsk()
const at = computed(() => tree.view!.tree)
const letters = 'abcdefgh'

async function rename() {
  for (const letter of letters) {
    const body = { tag: at.value.tag + letter, tract: at.value.tract, stand: at.value.stand, by: session.name || undefined }
    const { ok } = await ask(api.POST('/api/trees/{id}/move', { params: { path: { id: at.value.id } }, body }))
    if (ok) return tree.refresh()
  }
}
</script>

<template>
  <p class="same" role="status" data-same-tag>
    <span>Another tree here carries the tag {{ at.tag }} too: they were tagged on two devices.</span>
    <RouterLink v-for="id in tree.view?.same_tag" :key="id" class="press" :to="{ name: 'tree', params: { id } }">Open the other</RouterLink>
    <button v-if="session.may('observer')" class="press" :disabled="busy" data-retag @click="rename">Call this one {{ at.tag }}a</button>
    <span v-if="wrong.length" class="wrong">{{ wrong.join(' ') }}</span>
  </p>
</template>

<style scoped>
.same {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 0.75rem;
  align-items: center;
  padding: 0.25rem 0.75rem;
  background: var(--pt-straw);
  color: var(--pt-straw-ink);
}

.press {
  background: transparent;
  border-color: currentcolor;
}
</style>
