<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed, onMounted, ref } from 'vue'
import ReportButton from '../stands/ReportButton.vue'
import { useStands } from '../trees/stands'
import { tagsFrom } from './tags'

/** Labels with codes: of the trees of a tract or stand, or with tags that are still to be given out. */
const stands = useStands()
onMounted(stands.load)
const tract = ref('')
const stand = ref('')
const first = ref('')
const many = ref(24)
const size = useLocalStorage('palethicket.labels', { rows: 8, columns: 3, twice: false }, { deep: true })
const fresh = ref(false)
const inTract = computed(() => stands.all.filter((s) => s.tract === tract.value))
const tags = computed(() => (fresh.value ? tagsFrom(first.value, many.value) : []))
const href = computed(() => {
  const { rows, columns, twice } = size.value
  const query = new URLSearchParams({ base: location.origin, rows: String(rows), columns: String(columns), twice: String(twice) })
  if (tract.value) query.set('tract', tract.value)
  if (stand.value) query.set('stand', stand.value)
  for (const t of tags.value) query.append('tag', t)
  return `/api/paper/tags.pdf?${query}`
})
const lonely = /^(localhost|127\.|\[::1\])/.test(location.hostname)
</script>

<template>
  <section class="panel" aria-labelledby="paper-labels">
    <h2 id="paper-labels">Labels</h2>
    <p class="soft">
      Tag and code, for trees and for the bags of their twigs. A code opens its tree, here or on a device without a signal.
    </p>
    <label class="field"
      >Tract
      <select v-model="tract" data-label-tract @change="stand = ''">
        <option value="">All</option>
        <option v-for="t in stands.tracts" :key="t">{{ t }}</option>
      </select></label
    >
    <label v-if="tract" class="field"
      >Stand
      <select v-model="stand">
        <option value="">All</option>
        <option v-for="s in inTract" :key="s.stand">{{ s.stand }}</option>
      </select></label
    >
    <label class="check"><input v-model="fresh" type="checkbox" data-label-fresh /> Tags that no tree has yet</label>
    <div v-if="fresh" class="pair">
      <label class="field">From <input v-model="first" maxlength="40" placeholder="LC-901" data-label-first /></label>
      <label class="field">How many <input v-model.number="many" type="number" min="1" max="500" /></label>
    </div>
    <div class="pair">
      <label class="field">Across <input v-model.number="size.columns" type="number" min="1" max="12" data-label-columns /></label>
      <label class="field">Down <input v-model.number="size.rows" type="number" min="1" max="40" /></label>
    </div>
    <label class="check"><input v-model="size.twice" type="checkbox" /> Each twice: tree and bag</label>
    <p v-if="lonely" class="hint small">
      Codes lead to this machine alone, as the page was opened at its own address. Open it at the address that telephones reach.
    </p>
    <p class="foot">
      <span v-if="fresh && !tags.length" class="soft small">Write the first tag, ending in a figure.</span>
      <ReportButton v-else :href="href" name="labels.pdf" words="Print (PDF)" />
      <RouterLink class="press" to="/t" data-open-label>Open by its label</RouterLink>
    </p>
  </section>
</template>

<style scoped>
section {
  display: flex;
  flex-direction: column;
  gap: 0.75rem;
}

h2 {
  font-size: 1.0625rem;
}

.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.75rem;
}

.foot {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  margin-top: auto;
}
</style>
