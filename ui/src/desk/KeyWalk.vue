<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { useCannotTell } from './cannotTell'
import { useTree } from './tree'
import { capital, percent, seconds } from '../frame/words'
import StateDrawing from '../plates/StateDrawing.vue'

const emit = defineEmits<{ close: []; drawn: [] }>()
const tree = useTree()
const cannotTell = useCannotTell()
const walk = ref<Schemas['Walk'] | null>(null)
const skipped = computed(() => cannotTell.of(tree.current))
const { wrong, ask } = useAsk()
const main = ref<HTMLElement>()
const tooSoon = 400 // ms: a press that was meant for the question before
let since = 0
onMounted(() => main.value?.focus())

async function load() {
  if (!tree.view || tree.sending) return
  const { data } = await ask(
    api.GET('/api/trees/{id}/walk', { params: { path: { id: tree.view.tree.id }, query: { skip: skipped.value } } }),
  )
  if (!data) return
  if (data.question?.character !== walk.value?.question?.character) since = Date.now()
  walk.value = data
  void nextTick(() => document.activeElement === document.body && main.value?.focus())
}
// A new question follows once the book has the last answer.
watch(() => [tree.sending, tree.view?.result, skipped.value.length], load, { immediate: true })

const question = computed(() => walk.value?.question)
const options = computed(() =>
  (question.value?.options ?? []).map((o) => ({
    ...o,
    drawn: o.score.seen === undefined ? (o.score.states ?? []).slice(0, 5) : o.score.seen ? ['seen'] : [],
  })),
)

function answer(score: Schemas['Score']) {
  const q = question.value
  if (!q || Date.now() - since < tooSoon) return
  const at = tree.looks.findLast((l) => l.from === q.from && !l.stranger)
  const look = at?.id ?? tree.addLook(q.from)
  tree.score(score, look)
}

function skip() {
  if (question.value && Date.now() - since >= tooSoon) cannotTell.add(tree.current, question.value.character)
}
</script>

<template>
  <main ref="main" aria-label="Key walk" tabindex="-1" data-walking>
    <header>
      <h2>Key walk <span class="soft small">one question at a time; leave and come back as you like</span></h2>
      <button class="press" data-leave @click="emit('close')">Leave the walk</button>
    </header>
    <SaidWrong :lines="wrong" again @again="load" />
    <div v-if="walk?.settled" class="panel settled" role="status">
      <p class="big">{{ capital(walk.named.words) }}, {{ percent(walk.named.posterior) }}</p>
      <p>Now confirm it: what would it be if not that, and what tells them apart?</p>
      <button class="press" @click="emit('drawn')">See it beside its look-alike</button>
    </div>
    <section v-if="question" class="question" aria-live="polite">
      <h3>{{ capital(question.name) }}</h3>
      <p class="soft">
        {{ question.look }} <span class="small">{{ question.from_words }}, about {{ seconds(question.seconds) }}.</span>
      </p>
      <div class="options">
        <button v-for="(o, i) in options" :key="question.character + i" class="press option" :data-option="i" @click="answer(o.score)">
          <span class="drawings"><StateDrawing v-for="d in o.drawn" :key="d" :character="question.character" :state="d" /></span>
          <strong>{{ capital(o.words) }}</strong>
          <span class="small soft">then {{ o.leader }} leads</span>
        </button>
      </div>
      <button class="press quiet" data-skip @click="skip">Cannot tell; ask something else</button>
      <button v-if="skipped.length" class="press quiet small" data-ask-again @click="cannotTell.forget(tree.current)">
        Ask again what you could not tell ({{ skipped.length }})
      </button>
    </section>
    <p v-else-if="walk && !walk.settled" class="soft">
      <strong>{{ capital(walk.named.words) }}.</strong> Nothing more can be asked that would tell much. What is left is to measure, or to
      come back with a twig.
    </p>
  </main>
</template>

<style scoped>
main {
  display: grid;
  gap: 0.75rem;
  align-content: start;
}

header {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 0.5rem;
}

h2 {
  font-size: 1.0625rem;
}

.question {
  display: grid;
  gap: 0.625rem;
}

h3 {
  font-size: 1.375rem;
}

.options {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.75rem;
}

.option {
  display: grid;
  gap: 0.375rem;
  align-content: center;
  justify-items: center;
  min-height: 11rem;
  padding: 0.75rem;
}

.drawings {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
}

.settled {
  background: var(--pt-spruce-pale);
}

.big {
  font-size: 1.25rem;
  font-weight: 700;
}

@media (max-width: 600px) {
  .options {
    grid-template-columns: 1fr;
  }
}
</style>
