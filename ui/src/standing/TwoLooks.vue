<script setup lang="ts">
import { ref } from 'vue'
import { api } from '../api/client'
import { useAsk } from '../frame/ask'
import { seconds } from '../frame/words'
import { useWhenOn } from './whenOn'

/** Two looks ahead. It takes a while to work out, and is asked for once it is opened. */
const props = defineProps<{ tree: string; scored: string }>()
const { ask } = useAsk()
const open = ref(false)
const ahead = useWhenOn(
  () => open.value,
  () => props.tree + props.scored,
  async () => (await ask(api.GET('/api/trees/{id}/ahead', { params: { path: { id: props.tree } } }))).data,
)
</script>

<template>
  <details data-ahead @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary class="small">Two looks ahead</summary>
    <template v-if="ahead?.first">
      <p class="small">First {{ ahead.first.name }}. Both take about {{ seconds(Math.round(ahead.seconds)) }}.</p>
      <ul class="small">
        <li v-for="b in ahead.then" :key="b.answer">
          <span>{{ b.answer }}</span>
          <span class="soft">{{ b.settled ? `${b.leader}: stop there` : b.name ? `then ${b.name}` : `${b.leader} leads` }}</span>
        </li>
      </ul>
    </template>
    <p v-else-if="ahead" class="small soft">No look tells much more.</p>
  </details>
</template>

<style scoped>
summary {
  min-height: var(--pt-press);
  align-content: center;
  cursor: pointer;
}

li {
  display: flex;
  justify-content: space-between;
  gap: 0.75rem;
  padding: 0.125rem 0.75rem;
}
</style>
