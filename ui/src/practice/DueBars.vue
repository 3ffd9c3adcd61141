<script setup lang="ts">
import { computed } from 'vue'
import { count } from '../frame/words'

/** How many cards are due on each of the days to come. */
const props = defineProps<{ due: number[] }>()
const most = computed(() => Math.max(1, ...props.due))
const day = (i: number) => {
  const d = new Date()
  d.setDate(d.getDate() + i)
  return i ? d.toLocaleDateString(undefined, { weekday: 'short', day: 'numeric' }) : 'today'
}
const says = computed(() => props.due.map((n, i) => `${day(i)} ${count(n, 'card')}`).join(', '))
</script>

<template>
  <div class="bars" role="img" :aria-label="`Cards due: ${says}`">
    <div v-for="(n, i) in due" :key="i">
      <span class="small">{{ n || '' }}</span>
      <span class="bar" :style="{ height: `${(64 * n) / most}px` }"></span>
      <span class="small soft">{{ i % 7 === 0 ? day(i) : '' }}</span>
    </div>
  </div>
</template>

<style scoped>
.bars {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  gap: 2px;
  align-items: end;
  max-width: 22rem;
}

.bars > div {
  min-width: 0;
  display: grid;
  justify-items: center;
  align-content: end;
  min-height: 6.5rem;
  grid-template-rows: 1fr auto 1.5rem;
  align-items: end;
  white-space: nowrap;
}

.bar {
  width: 100%;
  min-height: 1px;
  background: var(--pt-spruce);
}
</style>
