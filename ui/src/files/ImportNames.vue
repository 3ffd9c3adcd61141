<script setup lang="ts">
import type { Schemas } from '../api/client'
import { capital, count } from '../frame/words'
import TaxonPicker from '../flora/TaxonPicker.vue'

/** Names in a file that may stand for several trees: each is said once, for all its lines. */
defineProps<{ doubts: Schemas['Doubt'][] }>()
const emit = defineEmits<{ say: [written: string, is: Schemas['Meant']] }>()
const species = (name: string): Schemas['Meant'] => ({ rank: 'species', name })
</script>

<template>
  <section aria-label="Names to be sure of">
    <h3>Names to be sure of</h3>
    <p class="small soft">What you say here is remembered for the next file.</p>
    <ul class="rows">
      <li v-for="d in doubts" :key="d.written" :data-doubt="d.written">
        <p>
          <strong>{{ d.written }}</strong> <span class="soft">{{ count(d.lines, 'line') }}</span>
        </p>
        <div class="maybe">
          <button
            v-for="s in d.suggests"
            :key="s.name"
            type="button"
            class="press"
            :data-meant="s.name"
            @click="emit('say', d.written, { rank: s.rank, name: s.name })"
          >
            {{ capital(s.words) }} <span v-if="s.rank === 'species'" class="sci small">{{ s.name }}</span>
          </button>
          <button type="button" class="press quiet" @click="emit('say', d.written, { rank: '', name: '' })">
            No name: put it in the remarks
          </button>
        </div>
        <TaxonPicker
          :id="`name-${d.written}`"
          :label="d.suggests?.length ? 'Or another' : 'It is'"
          @pick="(taxon) => emit('say', d.written, species(taxon))"
        />
      </li>
    </ul>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 0.5rem;
}

li {
  display: grid;
  gap: 0.375rem;
  padding: 0.75rem;
}

.maybe {
  display: flex;
  flex-wrap: wrap;
  gap: 0.375rem;
}
</style>
