<script setup lang="ts">
import AutoComplete from 'primevue/autocomplete'
import { useConfirm } from 'primevue/useconfirm'
import { computed, nextTick, onMounted, onUnmounted, ref, watch } from 'vue'
import type { Schemas } from '../api/client'
import { useFlora } from '../flora/flora'
import WhoseTrees from '../flora/WhoseTrees.vue'
import PageFrame from '../frame/PageFrame.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { useVocabulary } from '../frame/vocabulary'
import { capital, count, dayWords, percent } from '../frame/words'
import { plateAddress, useDrawings, type What } from '../plates/addresses'
import PlateImage from '../plates/PlateImage.vue'
import { isAway } from '../woods/device'
import { usePractice, type Kind, type Sure } from './practice'
import PracticeFigures from './PracticeFigures.vue'

type Term = Schemas['NameTerm']

const practice = usePractice()
const flora = useFlora()
const vocabulary = useVocabulary()
const confirm = useConfirm()
const { digest, theme } = useDrawings()
const away = isAway()

const kinds: { id: Kind; words: string }[] = [
  { id: 'twig', words: 'Twigs' },
  { id: 'bark', words: 'Barks' },
  { id: 'outline', words: 'Outlines' },
  { id: 'ground', words: 'Leaves on the ground' },
]
const sureness: { id: Sure; words: string; key: string }[] = [
  { id: 'sure', words: 'Sure', key: '1' },
  { id: 'fair', words: 'Fair', key: '2' },
  { id: 'guess', words: 'A guess', key: '3' },
]
const asks: Record<string, string> = {
  twig: 'Whose twig is this?',
  bark: 'Whose bark is this?',
  outline: 'Which tree stands so?',
  ground: 'Whose leaf is this?',
}

const typed = ref<Term | string | null>(null)
const sure = ref<Sure>('fair')
const found = ref<Term[]>([])
const unknown = ref('')
const names = computed(() => (vocabulary.words?.names ?? []).filter((n) => n.name))

function search(e: { query: string }) {
  unknown.value = ''
  const q = e.query.trim().toLowerCase()
  const hits = names.value.filter((n) => n.words.toLowerCase().includes(q))
  found.value = hits.sort((a, b) => Number(b.words.toLowerCase().startsWith(q)) - Number(a.words.toLowerCase().startsWith(q))).slice(0, 30)
}

/** A name that was chosen, or typed so that it can only be one. */
function meant(): Term | null {
  if (typed.value && typeof typed.value !== 'string') return typed.value
  const q = (typed.value ?? '').trim().toLowerCase()
  if (!q) return null
  const hits = names.value.filter((n) => n.words.toLowerCase().includes(q))
  const own = hits.filter((n) =>
    n.words
      .toLowerCase()
      .split(/, | \(|\)/)
      .includes(q),
  )
  return own[0] ?? (hits.length === 1 ? hits[0] : null)
}

function say() {
  const name = meant()
  if (!name) {
    unknown.value = typed.value
      ? `“${String(typed.value)}” may be several names, or none: choose one from the list.`
      : 'Say a name, or press “I do not know”.'
    return
  }
  void practice.answer({ rank: name.rank, name: name.name }, sure.value)
}

async function next() {
  typed.value = null
  unknown.value = ''
  sure.value = 'fair'
  await practice.next(flora.among)
  await nextTick()
  document.getElementById('practice-name')?.focus({ preventScroll: true })
}

function toggle(kind: Kind) {
  const on = practice.kinds.includes(kind)
  if (on && practice.kinds.length === 1) return
  practice.kinds = on ? practice.kinds.filter((k) => k !== kind) : [...practice.kinds, kind]
}
watch([() => practice.kinds, () => flora.among, () => practice.tillSure], () => void next())

/** By keys alone: Alt with 1 to 3 says how sure, Enter goes on after an answer. */
function keys(e: KeyboardEvent) {
  const chosen = sureness.find((s) => e.altKey && s.key === e.key)
  if (chosen) {
    e.preventDefault()
    sure.value = chosen.id
  } else if (e.key === 'Enter' && practice.verdict && !(e.target as HTMLElement).closest('button, a, [role="dialog"]')) {
    e.preventDefault()
    void next()
  }
}
onMounted(() => {
  if (away) return
  addEventListener('keydown', keys)
  void next()
  void practice.look()
})
onUnmounted(() => removeEventListener('keydown', keys))
watch(
  () => practice.verdict,
  async (v) => {
    if (!v) return
    void practice.look()
    await nextTick()
    document.getElementById('practice-next')?.focus({ preventScroll: true })
  },
)

const shownAs = computed<What>(() => (practice.verdict?.kind === 'ground' ? 'leaf' : ((practice.verdict?.kind ?? 'twig') as What)))
const usual = (taxon: string) => (t: string) =>
  plateAddress(
    { what: shownAs.value, taxon, region: flora.among.region, age: practice.verdict?.age, marked: practice.verdict?.marked ?? [] },
    digest.value,
    t,
  )

const again = (at: string) => (new Date(at) <= new Date() ? 'It comes again before you leave.' : `It comes again on ${dayWords(at)}.`)

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
    <template #actions><WhoseTrees /></template>
    <p v-if="away" class="panel">Practice is kept at home: on this device it is not there yet.</p>
    <template v-else>
      <div class="bar" role="group" aria-label="What is shown">
        <button v-for="k in kinds" :key="k.id" class="press" :aria-pressed="practice.kinds.includes(k.id)" @click="toggle(k.id)">
          {{ k.words }}
        </button>
        <span v-if="practice.card" class="soft small" data-due
          >{{ practice.card.due }} due, {{ practice.card.fresh }} never asked; {{ count(practice.answered, 'answer') }} now</span
        >
      </div>
      <SaidWrong :lines="practice.wrong" again @again="practice.card?.id && !practice.verdict && typed ? say() : next()" />
      <section v-if="practice.card && !practice.card.id" class="panel">
        <h2>Nothing is due.</h2>
        <p v-if="practice.card.next">The next card comes on {{ dayWords(practice.card.next) }}.</p>
        <p class="soft">Today’s new cards are begun. Show other parts, or other trees, to go on.</p>
      </section>
      <section v-else-if="practice.card" class="panel card" :class="practice.card.kind" aria-label="Card">
        <div class="pictures">
          <div class="shown">
            <PlateImage
              v-if="practice.picture"
              :key="practice.picture"
              :address="() => practice.picture"
              :theme="theme"
              :says="practice.verdict ? `This ${practice.verdict.english}` : 'A tree to be named: a drawing'"
            />
            <figcaption v-if="practice.verdict" class="small">This one</figcaption>
          </div>
          <div v-if="practice.verdict" class="shown">
            <PlateImage :address="usual(practice.verdict.taxon)" :theme="theme" :says="`The usual ${practice.verdict.english}`" />
            <figcaption class="small">The usual {{ practice.verdict.english }}</figcaption>
          </div>
          <div v-if="practice.verdict?.other" class="shown">
            <PlateImage :address="usual(practice.verdict.other)" :theme="theme" :says="`The usual ${practice.verdict.other_is}`" />
            <figcaption class="small">The usual {{ practice.verdict.other_is }}</figcaption>
          </div>
        </div>
        <form v-if="!practice.verdict" class="says" @submit.prevent="say">
          <h2>{{ asks[practice.card.kind] }}</h2>
          <p v-if="practice.card.age" class="soft">
            A {{ practice.card.age }} tree<template v-if="practice.card.kind === 'bark'">, at breast height</template>.
          </p>
          <label class="field" for="practice-name"
            >As far as it shows: a species, a group, a genus or a family
            <AutoComplete
              v-model="typed"
              input-id="practice-name"
              :suggestions="found"
              option-label="words"
              fluid
              placeholder="red oak, Carya, maple of some kind…"
              @complete="search"
            />
          </label>
          <p v-if="unknown" class="wrong small" role="alert">{{ unknown }}</p>
          <div class="bar" role="group" aria-label="How sure">
            <button
              v-for="s in sureness"
              :key="s.id"
              type="button"
              class="press"
              :aria-pressed="sure === s.id"
              :title="`Alt ${s.key}`"
              :data-sure="s.id"
              @click="sure = s.id"
            >
              {{ s.words }}
            </button>
          </div>
          <div class="bar">
            <button class="press lead" data-say :disabled="practice.busy">Say it</button>
            <button type="button" class="press" data-unknown :disabled="practice.busy" @click="practice.answer(null, 'guess')">
              I do not know
            </button>
          </div>
        </form>
        <div v-else class="says" role="status" data-verdict>
          <h2 :class="{ wrong: practice.verdict.verdict === 'wrong' }">{{ practice.verdict.words }}</h2>
          <p>
            <RouterLink :to="`/flora/${encodeURIComponent(practice.verdict.taxon)}`"
              ><strong>{{ capital(practice.verdict.english) }}</strong> <span class="sci">{{ practice.verdict.taxon }}</span></RouterLink
            >; what was shown carries it {{ practice.verdict.carries }}.
          </p>
          <template v-if="practice.verdict.other">
            <p>What would have told it from {{ practice.verdict.other_is }}:</p>
            <ul>
              <li v-for="t in practice.verdict.tells" :key="t">{{ t }}</li>
              <li v-if="!practice.verdict.tells?.length" class="soft">Nothing that such a card shows.</li>
            </ul>
            <RouterLink :to="{ path: '/pair', query: { taxon: [practice.verdict.taxon, practice.verdict.other] } }"
              >Two of each, side by side</RouterLink
            >
          </template>
          <p class="soft small">{{ again(practice.verdict.again) }}</p>
          <button id="practice-next" class="press lead" data-next @click="next">Next</button>
        </div>
      </section>
      <details class="panel">
        <summary>How you want to be asked</summary>
        <label class="field" for="practice-new"
          >New cards a day <input id="practice-new" v-model.number="practice.fresh" type="number" min="0" max="1000"
        /></label>
        <label class="field" for="practice-wanted"
          >A card is due when it is known in
          <select id="practice-wanted" v-model.number="practice.wanted">
            <option v-for="w in [0.8, 0.85, 0.9, 0.95]" :key="w" :value="w">{{ percent(w) }} of cases</option>
          </select></label
        >
        <label class="check"
          ><input v-model="practice.tillSure" type="checkbox" data-till-sure /> Till sure: what was asked today comes back until it was
          right twice running</label
        >
      </details>
      <PracticeFigures v-if="practice.figures?.reviews" :figures="practice.figures" @forget="forget" />
    </template>
  </PageFrame>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
}

details[open] {
  display: grid;
  gap: 0.75rem;
}

summary {
  min-height: var(--pt-press);
  display: flex;
  align-items: center;
}

.check {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  min-height: var(--pt-press);
}

.check input {
  width: 1.5rem;
  height: 1.5rem;
  accent-color: var(--pt-spruce);
}

.card {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(17rem, 1fr);
  gap: 1.25rem;
  align-items: start;
}

.pictures {
  display: flex;
  gap: 0.75rem;
}

.shown {
  flex: 1;
  min-width: 0;
  max-width: 22rem;
}

.shown :deep(img) {
  max-height: 60vh;
}

@media (max-width: 760px) {
  .card {
    grid-template-columns: minmax(0, 1fr);
  }

  .shown :deep(img) {
    max-height: 38vh;
  }
}

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
