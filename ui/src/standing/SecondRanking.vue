<script setup lang="ts">
import type { Schemas } from '../api/client'
import { capital, percent } from '../frame/words'

/** A second ranking below the usual one, off unless it is asked for. */
defineProps<{ title: string; words: string; ranking: Schemas['Ranked'][]; means: string; note: string; name: string }>()
const on = defineModel<boolean>({ required: true })
</script>

<template>
  <section :aria-label="title">
    <label class="small"><input v-model="on" type="checkbox" v-bind="{ [`data-${name}`]: '' }" /> {{ words }}</label>
    <slot />
    <ol v-if="ranking.length" class="small" :aria-label="means">
      <li v-for="r in ranking.slice(0, 3)" :key="r.taxon">
        <span>{{ capital(r.english) }}</span> <strong>{{ percent(r.posterior) }}</strong>
      </li>
    </ol>
    <slot name="after" />
    <p v-if="note" class="small hint">{{ note }}</p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 0.25rem;
}

label {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  min-height: var(--pt-press);
}

input {
  width: 24px;
  height: 24px;
}

li {
  display: flex;
  justify-content: space-between;
}
</style>
