<script setup lang="ts">
import { ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { useSettings } from '../frame/settings'
import { capital, percent } from '../frame/words'

const props = defineProps<{ tree: string; scored: string }>()
const settings = useSettings()
const { ask } = useAsk()
const here = ref<Schemas['Here'] | null>(null)

/** Asks only when it was asked for: by itself the standing knows nothing of the stand's other trees. */
watch(
  [() => settings.here, () => props.tree, () => props.scored],
  async ([on]) => {
    if (!on) {
      here.value = null
      return
    }
    const { data } = await ask(api.GET('/api/trees/{id}/here', { params: { path: { id: props.tree } } }))
    here.value = data ?? null
  },
  { immediate: true },
)
</script>

<template>
  <section aria-label="As this stand's record would have it">
    <label class="small"><input v-model="settings.here" type="checkbox" data-here /> Expect what the rest of the stand is</label>
    <template v-if="here">
      <p v-if="!here.trees" class="small soft">No other tree of the stand has been scored yet.</p>
      <ol v-else class="small" :aria-label="`With ${here.trees} other trees of the stand as what to expect`">
        <li v-for="r in here.ranking?.slice(0, 3)" :key="r.taxon">
          <span>{{ capital(r.english) }}</span> <strong>{{ percent(r.posterior) }}</strong>
        </li>
      </ol>
      <p class="small hint">{{ here.note }}</p>
    </template>
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
