<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import PageFrame from '../frame/PageFrame.vue'
import StateDrawing from '../plates/StateDrawing.vue'
import { api, type CharacterPage } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import WhoseTrees from './WhoseTrees.vue'
import { useVocabulary } from '../frame/vocabulary'
import { useFlora } from './flora'
import { capital, percent, seconds } from '../frame/words'

const props = defineProps<{ id: string }>()
const vocabulary = useVocabulary()
const flora = useFlora()
const page = ref<CharacterPage | null>(null)
const { wrong, ask } = useAsk()

async function load() {
  const { data } = await ask(api.GET('/api/flora/characters/{id}', { params: { path: { id: props.id }, query: flora.among } }))
  page.value = data ?? null
}
watch(() => [props.id, flora.among], load, { immediate: true })

const taken = computed(() => new Map((page.value?.mistaken ?? []).map((m) => [m.state, m.for ?? []])))
</script>

<template>
  <PageFrame :title="capital(page?.name ?? id)">
    <template #actions>
      <WhoseTrees />
    </template>
    <SaidWrong :lines="wrong" again @again="load" />
    <template v-if="page">
      <p class="panel">
        {{ page.look }}
        <span class="soft"
          >{{ vocabulary.sections.get(page.section)?.words }}; about {{ seconds(page.seconds) }};
          {{ page.harm_words || 'harms nothing' }}.</span
        >
      </p>
      <section v-for="s in page.states" :key="s.id" class="panel state" :aria-label="s.words">
        <StateDrawing :character="page.id" :state="s.id" />
        <div>
          <h2>{{ s.words }}</h2>
          <p>
            {{ capital(s.means) }}.<span v-if="taken.get(s.words.toLowerCase())?.length" class="soft">
              Mistaken for {{ taken.get(s.words.toLowerCase())?.join(', ') }}.</span
            >
          </p>
          <p class="small trees">
            <template v-for="(t, i) in s.taxa?.slice(0, 30)" :key="t.name"
              ><template v-if="i">, </template><RouterLink :to="`/flora/${encodeURIComponent(t.name)}`">{{ t.english }}</RouterLink>
              <span class="soft">{{ percent(t.chance) }}</span></template
            >
            <span v-if="(s.taxa?.length ?? 0) > 30" class="soft"> and {{ (s.taxa?.length ?? 0) - 30 }} more</span>
            <span v-if="!s.taxa?.length" class="soft">No tree of these shows it.</span>
          </p>
        </div>
      </section>
      <section v-if="page.ranges?.length" class="panel" aria-label="Ranges">
        <h2>From the smallest to the largest</h2>
        <ul class="ranges">
          <li v-for="r in page.ranges" :key="r.name">
            <RouterLink :to="`/flora/${encodeURIComponent(r.name)}`">{{ r.english }}</RouterLink> <span>{{ r.words }}</span>
          </li>
        </ul>
      </section>
    </template>
  </PageFrame>
</template>

<style scoped>
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
