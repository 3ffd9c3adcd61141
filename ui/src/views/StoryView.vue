<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import PageFrame from '../components/PageFrame.vue'
import StandingChart from '../components/StandingChart.vue'
import StoryStep from '../components/StoryStep.vue'
import TreeDetails from '../components/TreeDetails.vue'
import TreePhotos from '../components/TreePhotos.vue'
import { api, problemLines, type Step, type Story } from '../api/client'
import { useSession } from '../stores/session'
import { dayWords } from '../words'

const props = defineProps<{ id: string }>()
const session = useSession()
const story = ref<Story | null>(null)
const error = ref('')
const wrong = ref<{ entry: string; line: string } | null>(null)

async function load() {
  error.value = ''
  try {
    const { data, error: problem } = await api.GET('/api/trees/{id}/story', { params: { path: { id: props.id } } })
    story.value = data ?? null
    if (problem) error.value = problemLines(problem).join(' ')
  } catch {
    error.value = 'No connection to the book.'
  }
}
watch(() => props.id, load, { immediate: true })

async function undo(step: Step) {
  wrong.value = null
  try {
    const { error: problem } = await api.POST('/api/trees/{id}/undo', {
      params: { path: { id: props.id } }, body: { entry: step.entry, by: session.name || undefined },
    })
    if (problem) wrong.value = { entry: step.entry, line: problemLines(problem).join(' ') }
    await load()
  } catch {
    wrong.value = { entry: step.entry, line: 'No connection to the book; nothing was changed.' }
  }
}

/** The steps of each day, so that a visit reads as one. */
const days = computed(() => {
  const out = new Map<string, Step[]>()
  for (const s of story.value?.steps ?? []) {
    const day = s.at.slice(0, 10)
    out.set(day, [...(out.get(day) ?? []), s])
  }
  return [...out].map(([day, steps]) => {
    const visit = story.value?.visits?.find((v) => steps.some((s) => s.visit === v.id))
    return { day, steps, about: visit ? [visit.crew, visit.weather, visit.snow === 'none' ? '' : `${visit.snow} snow`].filter(Boolean).join(' · ') : '' }
  })
})
const looks = computed(() => (story.value?.steps ?? []).filter((s) => s.kind === 'look' && s.stands).map((s) => ({ id: s.entry, words: s.words })))
</script>

<template>
  <PageFrame :title="story ? `${story.tree.tag}: its story` : 'A tree’s story'" :hint="story ? `${story.tree.stand}, ${story.tree.tract}` : ''">
    <template #actions>
      <RouterLink class="press lead score" :to="{ name: 'tree', params: { id } }">Score it</RouterLink>
    </template>
    <p v-if="error" class="wrong" role="alert">{{ error }} <button class="press" @click="load">Try again</button></p>
    <template v-if="story">
      <p v-if="story.doubt" class="hint" role="status"><strong>The last name is in doubt.</strong> {{ story.doubt }}</p>
      <TreeDetails :tree="story.tree" :facts="story.facts" @kept="load" />
      <StandingChart v-if="story.taxa?.length" :story="story" />
      <TreePhotos :tree="id" :looks="looks" />
      <section v-for="d in days" :key="d.day" :aria-label="dayWords(d.day)">
        <h2>{{ dayWords(d.day) }} <span class="soft small">{{ d.about }}</span></h2>
        <ol class="rows">
          <StoryStep v-for="s in d.steps" :key="s.entry" :step="s" :wrong="wrong?.entry === s.entry ? wrong.line : ''" @undo="undo(s)" />
        </ol>
      </section>
      <p v-if="!days.length" class="soft">Nothing has been entered yet.</p>
      <p class="small soft">Nothing is ever written over: undoing adds a line that takes the earlier one back.</p>
    </template>
  </PageFrame>
</template>

<style scoped>
h2 {
  display: flex;
  flex-wrap: wrap;
  gap: 0 0.75rem;
  align-items: baseline;
  font-size: 1.0625rem;
  margin-bottom: 0.375rem;
}
</style>
