<script setup lang="ts">
import type { Schemas } from '../api/client'
import { capital, dayWords } from '../frame/words'

/** What came of an answer, and what would have told. */
defineProps<{ verdict: Schemas['CardVerdict'] }>()
defineEmits<{ next: [] }>()
const again = (at: string) => (new Date(at) <= new Date() ? 'It comes again before you leave.' : `It comes again on ${dayWords(at)}.`)
</script>

<template>
  <div class="says" role="status" data-verdict>
    <h2 :class="{ wrong: verdict.verdict === 'wrong' }">{{ verdict.words }}</h2>
    <template v-if="verdict.kind === 'word'">
      <p>
        <RouterLink :to="`/characters/${verdict.word}`"
          ><strong>{{ capital(verdict.english) }}</strong></RouterLink
        >: {{ verdict.carries }}.
      </p>
      <ul v-if="verdict.tells?.length">
        <li v-for="t in verdict.tells" :key="t">{{ t }}</li>
      </ul>
    </template>
    <template v-else>
      <p>
        <RouterLink :to="`/flora/${encodeURIComponent(verdict.taxon)}`"
          ><strong>{{ capital(verdict.english) }}</strong> <span class="sci">{{ verdict.taxon }}</span></RouterLink
        ><template v-if="verdict.kind === 'pair'"> was the first.</template
        ><template v-else>; what was shown carries it {{ verdict.carries }}.</template>
      </p>
      <template v-if="verdict.other">
        <p>What tells it from {{ verdict.other_is }}:</p>
        <ul>
          <li v-for="t in verdict.tells" :key="t">{{ t }}</li>
          <li v-if="!verdict.tells?.length" class="soft">Nothing that such a card shows.</li>
        </ul>
        <RouterLink :to="{ path: '/pair', query: { taxon: [verdict.taxon, verdict.other] } }">Two of each, side by side</RouterLink>
      </template>
    </template>
    <p class="soft small">{{ again(verdict.again) }}</p>
    <button id="practice-next" class="press lead" data-next @click="$emit('next')">Next</button>
  </div>
</template>

<style scoped>
.says {
  display: grid;
  gap: 0.75rem;
  align-content: start;
}

ul {
  list-style: disc;
  padding-left: 1.25rem;
}
</style>
