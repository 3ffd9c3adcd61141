<script setup lang="ts">
import { computed } from 'vue'
import type { Step } from '../api/client'
import { clock, dayWords } from '../frame/words'

const props = defineProps<{ step: Step; own: boolean; wrong: string }>()
defineEmits<{ undo: [] }>()
const time = computed(() => clock(props.step.at))
</script>

<template>
  <li :class="{ gone: step.gone, name: step.kind === 'name', inner: step.kind === 'score' }">
    <span class="when small soft">{{ time }}</span>
    <span class="what">
      <span>{{ step.words }}</span>
      <span v-if="step.then" class="small soft">{{ step.then }}</span>
      <span v-if="step.flag" class="small hint">{{ step.flag }}</span>
      <span v-if="step.said" class="small soft">The clock of the device said {{ dayWords(step.said) }}, {{ clock(step.said) }}.</span>
      <span v-if="step.gone" class="small soft">does not stand any more</span>
      <span v-if="wrong" class="small wrong" role="alert">{{ wrong }}</span>
    </span>
    <span class="stood small soft">{{ step.leads }}</span>
    <span class="small soft by">{{ step.by }}</span>
    <button v-if="step.undo && own" class="press quiet" :aria-label="`Undo: ${step.words}`" @click="$emit('undo')">
      <i class="pi pi-undo" aria-hidden="true"></i>
    </button>
    <span v-else></span>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 4.75rem minmax(0, 1fr) 15rem 8rem 48px;
  gap: 0.75rem;
  align-items: center;
  min-height: 48px;
  padding: 0 0.5rem 0 1rem;
}

.when {
  white-space: nowrap;
}

.press {
  border-color: transparent;
}

.what {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  justify-items: start;
}

.inner .what {
  padding-left: 1.25rem;
}

.name .what > :first-child {
  font-weight: 700;
  color: var(--pt-spruce);
}

.gone .what > :first-child {
  text-decoration: line-through;
}

@media (max-width: 700px) {
  li {
    grid-template-columns: 4.5rem minmax(0, 1fr) 48px;
    gap: 0.25rem 0.5rem;
    padding: 0.25rem 0.25rem 0.25rem 0.75rem;
  }

  .stood {
    grid-column: 2;
    grid-row: 2;
  }

  .by {
    display: none;
  }

  .inner .what {
    padding-left: 0.5rem;
  }
}
</style>
