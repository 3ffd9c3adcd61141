<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import { computed, nextTick, onMounted, onUnmounted, ref, watch } from 'vue'
import type { Schemas } from '../api/client'
import { useFlora } from '../flora/flora'
import PageFrame from '../frame/PageFrame.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { useSession } from '../frame/session'
import { count, dayWords } from '../frame/words'
import { isAway } from '../woods/device'
import CardPictures from './CardPictures.vue'
import DeckChoice from './DeckChoice.vue'
import { useDecks } from './decks'
import HowAsked from './HowAsked.vue'
import NameAnswer from './NameAnswer.vue'
import ReportButton from '../stands/ReportButton.vue'
import PairAnswer from './PairAnswer.vue'
import { usePractice, type Kind, type Sure } from './practice'
import PracticeFigures from './PracticeFigures.vue'
import SetDeck from './SetDeck.vue'
import { sureness } from './sureness'
import VerdictSays from './VerdictSays.vue'
import WordAnswer from './WordAnswer.vue'

const practice = usePractice()
const away = isAway()
const decks = useDecks()
const flora = useFlora()
const session = useSession()
const confirm = useConfirm()

const kinds: { id: Kind; words: string }[] = [
  { id: 'word', words: 'Words' },
  { id: 'twig', words: 'Twigs' },
  { id: 'bark', words: 'Barks' },
  { id: 'outline', words: 'Outlines' },
  { id: 'ground', words: 'Leaves on the ground' },
  { id: 'pair', words: 'Look-alikes' },
]
const answers: Record<string, typeof NameAnswer | typeof WordAnswer | typeof PairAnswer> = { word: WordAnswer, pair: PairAnswer }
const sure = ref<Sure>('fair')
let said: Partial<Schemas['CardAnswer']> | null = null

function say(answer: Partial<Schemas['CardAnswer']>) {
  said = answer
  void practice.answer(answer)
}

const focus = (...ids: string[]) =>
  nextTick(() =>
    ids
      .map((id) => document.getElementById(id))
      .find(Boolean)
      ?.focus({ preventScroll: true }),
  )

async function next() {
  sure.value = 'fair'
  said = null
  await practice.next(flora.among, decks.chosen)
  await focus('practice-name', 'practice-first')
}

/** What failed is tried again: the answer that was said, or the next card. */
const again = () => (said && !practice.verdict ? practice.answer(said) : next())

/** What of the kinds that are chosen goes on paper, and where a sheet of it is. */
const onPaper = computed(() => practice.kinds.filter((k) => k !== 'word' && k !== 'pair'))
const quiz = computed(() => {
  const query = new URLSearchParams({ ...flora.among, n: '12', ...(decks.chosen ? { deck: decks.chosen } : {}) })
  for (const k of onPaper.value) query.append('kind', k)
  if (session.name) query.set('by', session.name)
  return `/api/practice/quiz.pdf?${query}`
})

function toggle(kind: Kind) {
  const on = practice.kinds.includes(kind)
  if (on && practice.kinds.length === 1) return
  practice.kinds = on ? practice.kinds.filter((k) => k !== kind) : [...practice.kinds, kind]
}
watch([() => practice.kinds, () => flora.among, () => practice.tillSure, () => decks.chosen], () => void next())

/** By keys alone: Alt with 1 to 3 says how sure, Enter goes on after an answer. */
function keys(e: KeyboardEvent) {
  const chosen = sureness.find((s) => e.altKey && s.key === e.key)
  if (chosen) {
    e.preventDefault()
    sure.value = chosen.id
  } else if (e.key === 'Enter' && practice.verdict && !(e.target as HTMLElement).closest('button, a, [role="dialog"], form')) {
    e.preventDefault()
    void next()
  }
}
onMounted(() => {
  addEventListener('keydown', keys)
  void next()
  void practice.look()
})
onUnmounted(() => removeEventListener('keydown', keys))
watch(
  () => practice.verdict,
  (v) => {
    if (!v) return
    void practice.look()
    void focus('practice-next')
  },
)

function forget() {
  confirm.require({
    header: 'Erase all you practised?',
    message: 'Your answers and what is due are gone for good. Nobody else’s are touched.',
    acceptLabel: 'Erase it',
    rejectProps: { label: 'Keep it', severity: 'secondary', outlined: true },
    defaultFocus: 'reject',
    accept: () => void practice.forget().then(next),
  })
}
</script>

<template>
  <PageFrame title="Practice" hint="Drawn trees, never the same twice; leave whenever you like">
    <template #actions><DeckChoice /></template>
    <SetDeck v-if="decks.setting" />
    <div class="bar" role="group" aria-label="What is shown">
      <button
        v-for="k in kinds"
        :key="k.id"
        class="press"
        :aria-pressed="practice.kinds.includes(k.id)"
        :data-kind="k.id"
        @click="toggle(k.id)"
      >
        {{ k.words }}
      </button>
      <span v-if="practice.card" class="soft small" data-due
        >{{ practice.card.due }} due, {{ practice.card.fresh }} never asked; {{ count(practice.answered, 'answer') }} now<template
          v-if="practice.card.until"
          >; to be known by {{ dayWords(practice.card.until) }}: begin {{ count(practice.card.daily ?? 0, 'new card') }} a day</template
        ></span
      >
    </div>
    <SaidWrong :lines="practice.wrong" again @again="again" />
    <section v-if="practice.card && !practice.card.id" class="panel">
      <h2>Nothing is due.</h2>
      <p v-if="practice.card.next">The next card comes on {{ dayWords(practice.card.next) }}.</p>
      <p class="soft">Today’s new cards are begun. Show other parts, or other trees, to go on.</p>
    </section>
    <section v-else-if="practice.card" class="panel card" :class="practice.card.kind" aria-label="Card">
      <CardPictures :card="practice.card" :verdict="practice.verdict" :pictures="practice.pictures" />
      <VerdictSays v-if="practice.verdict" :verdict="practice.verdict" @next="next" />
      <component
        :is="answers[practice.card.kind] ?? NameAnswer"
        v-else
        :key="practice.card.id"
        v-model:sure="sure"
        :card="practice.card"
        :busy="practice.busy"
        @say="say"
      />
    </section>
    <p v-else-if="practice.busy" class="panel soft">The next card comes…</p>
    <HowAsked />
    <p v-if="!away" class="bar">
      <ReportButton v-if="onPaper.length" :href="quiz" name="quiz.pdf" words="A quiz sheet of twelve (PDF)" />
      <RouterLink class="press" to="/practice/walks" data-walks>A walk through a stand that does not exist</RouterLink>
      <RouterLink v-if="session.may('lead')" class="press" to="/practice/crew">The crew’s practice</RouterLink>
    </p>
    <PracticeFigures v-if="practice.figures?.reviews" :figures="practice.figures" @forget="forget" />
  </PageFrame>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
}

.card {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(17rem, 1fr);
  gap: 1.25rem;
  align-items: start;
}

.card.word {
  grid-template-columns: minmax(0, 1fr) minmax(20rem, 2fr);
}

@media (max-width: 760px) {
  .card,
  .card.word {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
