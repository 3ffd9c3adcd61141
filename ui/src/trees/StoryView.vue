<script setup lang="ts">
import { ulid } from 'ulid'
import { computed, ref, watch } from 'vue'
import PageFrame from '../frame/PageFrame.vue'
import StoryChart from './StoryChart.vue'
import StoryStep from './StoryStep.vue'
import TreeDetails from './TreeDetails.vue'
import TreePhotos from './TreePhotos.vue'
import TreeMeasured from '../measure/TreeMeasured.vue'
import { api, type Step, type Story } from '../api/client'
import { useAsk } from '../frame/ask'
import PrintButton from '../frame/PrintButton.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { useSession } from '../frame/session'
import { dayWords } from '../frame/words'

const props = defineProps<{ id: string }>()
const session = useSession()
const story = ref<Story | null>(null)
const { wrong, ask } = useAsk()
const undoing = useAsk()
const at = ref('') // the entry whose undoing was refused

async function load() {
  const { data } = await ask(api.GET('/api/trees/{id}/story', { params: { path: { id: props.id } } }))
  if (data) story.value = data
}
watch(() => props.id, load, { immediate: true })

async function undo(step: Step) {
  at.value = step.entry
  const { ok } = await undoing.ask(
    api.POST('/api/trees/{id}/entries', {
      params: { path: { id: props.id } },
      body: { id: ulid(), kind: 'undo', entry: step.entry, by: session.name || undefined },
    }),
  )
  if (ok) await load()
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
    return {
      day,
      steps,
      about: visit ? [visit.crew, visit.weather, visit.snow === 'none' ? '' : visit.snow_words].filter(Boolean).join(' · ') : '',
    }
  })
})
const looks = computed(() =>
  (story.value?.steps ?? []).filter((s) => s.kind === 'look' && s.stands).map((s) => ({ id: s.entry, words: s.words })),
)
</script>

<template>
  <PageFrame
    :title="story ? `${story.tree.tag}: its story` : 'A tree’s story'"
    :hint="story ? `${story.tree.stand}, ${story.tree.tract}` : ''"
  >
    <template #actions>
      <PrintButton />
      <RouterLink class="press" :to="{ path: '/key', query: { tree: id } }" data-key-of-tree>Key to what is left</RouterLink>
      <RouterLink v-if="session.may('observer')" class="press lead score" :to="{ name: 'tree', params: { id } }">Score it</RouterLink>
    </template>
    <SaidWrong :lines="wrong" again @again="load" />
    <template v-if="story">
      <p v-if="story.doubt" class="hint" role="status">
        <strong v-if="story.step !== 'probably'">The last name is in doubt.</strong> {{ story.doubt }}
      </p>
      <p v-if="story.fault" class="hint" role="status"><strong>This tree cannot be weighed with this flora.</strong> {{ story.fault }}</p>
      <TreeDetails :tree="story.tree" :facts="story.facts" @kept="load" />
      <TreeMeasured :tree="id" :readings="story.readings ?? []" @kept="load" />
      <StoryChart v-if="story.taxa?.length" :story="story" />
      <TreePhotos :tree="id" :looks="looks" />
      <section v-for="d in days" :key="d.day" :aria-label="dayWords(d.day)">
        <h2>
          {{ dayWords(d.day) }} <span class="soft small">{{ d.about }}</span>
        </h2>
        <ol class="rows">
          <StoryStep
            v-for="s in d.steps"
            :key="s.entry"
            :step="s"
            :wrong="at === s.entry ? undoing.wrong.value.join(' ') : ''"
            :own="session.may('observer') && s.by === session.name"
            @undo="undo(s)"
          />
        </ol>
      </section>
      <p v-if="!days.length" class="soft">Nothing has been entered yet.</p>
      <p class="small soft">
        Nothing is ever written over: undoing adds a line, and what it names counts as never made. Everybody undoes what they did
        themselves.
      </p>
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
