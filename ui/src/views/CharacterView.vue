<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import PageFrame from '../components/PageFrame.vue'
import StateDrawing from '../components/StateDrawing.vue'
import { api, problemLines, type CharacterPage } from '../api/client'
import { useDesk } from '../stores/desk'
import { useFlora } from '../stores/flora'
import { capital, percent, plain, regionWord, seconds, sectionWord } from '../words'

const props = defineProps<{ id: string }>()
const desk = useDesk()
const flora = useFlora()
const page = ref<CharacterPage | null>(null)
const error = ref('')

async function load() {
  error.value = ''
  try {
    const { data, error: problem } = await api.GET('/api/flora/characters/{id}', {
      params: { path: { id: props.id }, query: { pool: flora.pool } },
    })
    page.value = data ?? null
    if (problem) error.value = problemLines(problem).join(' ')
  } catch {
    error.value = 'No connection to the book.'
  }
}
watch(() => [props.id, flora.pool], load, { immediate: true })

const harms: Record<string, string> = {
  none: 'harms nothing', scratch: 'a scratch on one twig', flake: 'a thumbnail of loose outer bark', twig: 'one cut twig, where collecting is allowed',
}
const taken = computed(() => new Map((page.value?.mistaken ?? []).map((m) => [m.state, m.for ?? []])))
</script>

<template>
  <PageFrame :title="capital(page?.name ?? id)">
    <template #actions>
      <label class="pool">Whose
        <select v-model="flora.pool">
          <option v-for="p in desk.desk?.pools" :key="p" :value="p">{{ regionWord(p) }}</option>
        </select>
      </label>
    </template>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <template v-if="page">
      <p class="panel">{{ page.look }} <span class="soft">{{ sectionWord(page.section) }}; about {{ seconds(page.seconds) }}; {{ harms[page.harm] }}.</span></p>
      <section v-for="s in page.states" :key="s.id" class="panel state" :aria-label="plain(s.id)">
        <StateDrawing :character="page.id" :state="s.id" />
        <div>
          <h2>{{ capital(plain(s.id)) }}</h2>
          <p>{{ capital(s.means) }}.<span v-if="taken.get(s.id)?.length" class="soft"> Mistaken for {{ taken.get(s.id)?.map(plain).join(', ') }}.</span></p>
          <p class="small trees">
            <template v-for="(t, i) in s.taxa?.slice(0, 30)" :key="t.name"><template v-if="i">, </template><RouterLink :to="`/flora/${encodeURIComponent(t.name)}`">{{ t.english }}</RouterLink> <span class="soft">{{ percent(t.share) }}</span></template>
            <span v-if="(s.taxa?.length ?? 0) > 30" class="soft"> and {{ (s.taxa?.length ?? 0) - 30 }} more</span>
            <span v-if="!s.taxa?.length" class="soft">No tree of these shows it.</span>
          </p>
        </div>
      </section>
      <section v-if="page.ranges?.length" class="panel" aria-label="Ranges">
        <h2>From the smallest to the largest</h2>
        <ul class="ranges">
          <li v-for="r in page.ranges" :key="r.name"><RouterLink :to="`/flora/${encodeURIComponent(r.name)}`">{{ r.english }}</RouterLink> <span>{{ r.words }}</span></li>
        </ul>
      </section>
    </template>
  </PageFrame>
</template>

<style scoped>
.pool {
  display: flex;
  gap: 0.5rem;
  align-items: center;
}

.pool select {
  min-height: var(--pt-press);
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: var(--pt-snow);
  padding: 0 0.75rem;
}

.state {
  display: grid;
  grid-template-columns: 56px 1fr;
  gap: 0.75rem;
}

h2 {
  font-size: 1.0625rem;
}

.trees {
  margin-top: 0.25rem;
}

.trees a {
  color: inherit;
}

.ranges {
  columns: 17rem;
}

.ranges li {
  display: flex;
  justify-content: space-between;
  gap: 0.75rem;
  padding: 0.125rem 0;
  break-inside: avoid;
}
</style>
