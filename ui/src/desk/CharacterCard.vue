<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Character, Score, ScoreView } from '../api/client'
import { useVocabulary } from '../frame/vocabulary'
import { useTree } from './tree'
import { capital, seconds } from '../frame/words'
import MeasureInput from './MeasureInput.vue'
import SignButtons from './SignButtons.vue'
import StateTiles from './StateTiles.vue'
import TallyPad from './TallyPad.vue'

const props = defineProps<{ character: Character; score?: ScoreView }>()
const vocabulary = useVocabulary()
const tree = useTree()
const zone = ref('breast')

/** The score of the zone that is chosen, where the character has zones. */
const refused = computed(() =>
  tree.rejected?.character === props.character.id && (tree.rejected.look ?? tree.openLook) === tree.openLook ? tree.rejected.lines : [],
)
const current = computed(() =>
  props.character.by_zone
    ? (tree.look?.scores ?? []).find((s) => s.character === props.character.id && (s.zone || 'breast') === zone.value)
    : props.score,
)
const certain = computed(() => current.value?.certainty ?? 'fair')

function put(s: Partial<Score>, instrument?: string) {
  const at = props.character.by_zone && zone.value !== 'breast' ? { zone: zone.value } : {}
  tree.score({ ...s, character: props.character.id, ...at }, undefined, instrument)
}

function sure(certainty: string) {
  const { states, pairs, nodes, typed, value, unit, readings, how } = current.value ?? {}
  put({ states, pairs, nodes, typed, value, unit, readings, how, certainty })
}
</script>

<template>
  <section
    :class="{ done: current, refused: refused.length }"
    :aria-label="character.name"
    :data-card="character.id"
    :data-hand="tree.hand === character.id ? '' : undefined"
    tabindex="-1"
    @focusin="tree.hand = character.id"
    @pointerdown="tree.hand = character.id"
  >
    <div class="title">
      <h3>{{ capital(character.name) }}</h3>
      <span class="small soft"
        >{{ seconds(character.seconds) }}<template v-if="character.harm_words">, {{ character.harm_words }}</template></span
      >
      <span v-if="current" class="after">
        <span v-if="current.states || current.value" class="certainty" role="group" aria-label="How certain">
          <button
            v-for="w in vocabulary.words?.certainties"
            :key="w.id"
            class="tiny"
            data-certainty
            :aria-pressed="certain === w.id"
            @click="sure(w.id)"
          >
            {{ w.words }}
          </button>
        </span>
        <button class="tiny drop" data-withdraw @click="tree.withdraw(current.entry)">Withdraw</button>
      </span>
    </div>
    <p class="small soft">
      {{ character.look }}
      <template v-if="character.harm_words">Only where it is allowed, and the gentlest way that will do.</template>
      <RouterLink :to="`/characters/${character.id}`" target="_blank" class="means">What the words mean</RouterLink>
    </p>
    <div v-if="character.by_zone" class="zones" role="group" aria-label="Height on the trunk">
      <button v-for="z in vocabulary.words?.zones" :key="z.id" class="tiny" data-zone :aria-pressed="zone === z.id" @click="zone = z.id">
        {{ z.words }}
      </button>
    </div>
    <StateTiles v-if="character.kind === 'categorical'" :character="character" :score="current" @score="put" />
    <SignButtons v-else-if="character.kind === 'sign'" :character="character.id" :score="current" @score="put" />
    <TallyPad
      v-else-if="character.kind === 'tally'"
      :character="character"
      :score="current"
      @score="put"
      @back="current && tree.undo(current.entry)"
    />
    <MeasureInput
      v-else
      :key="zone"
      :character="character"
      :score="current"
      @score="put"
      @withdraw="current && tree.withdraw(current.entry)"
    />
    <p v-if="refused.length && character.kind !== 'numeric'" class="small wrong">Not kept. {{ refused.join(' ') }}</p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.375rem;
  padding: 0.625rem 0.75rem 0.75rem;
  border: 1px solid var(--pt-line);
  border-radius: 10px;
  scroll-margin-block: 8rem 2rem;
}

section[data-hand] {
  border-color: var(--pt-ink);
  box-shadow: 0 0 0 2px var(--pt-ink);
}

section:focus-visible {
  outline: 0; /* the frame of what is in hand shows it */
}

section.refused {
  border-color: var(--pt-sumac);
}

/* A thumb finds it without the lines being pushed apart. */
.means {
  position: relative;
  white-space: nowrap;
}

.means::after {
  position: absolute;
  inset: -14px -4px;
  content: '';
}

section.done {
  border-color: var(--pt-spruce);
}

.title {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 0.75rem;
  align-items: center;
}

h3 {
  font-size: 1rem;
}

.after,
.zones,
.certainty {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem;
}

.after {
  margin-left: auto;
}

.tiny {
  min-height: 44px;
  min-width: 48px;
  padding: 0 0.625rem;
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: transparent;
  font-size: 0.875rem;
  cursor: pointer;
}

.tiny[aria-pressed='true'] {
  background: var(--pt-straw);
  color: var(--pt-straw-ink);
  border-color: var(--pt-straw-ink);
  font-weight: 600;
}

.drop {
  border-color: transparent;
  color: var(--pt-sumac);
  text-decoration: underline;
}

@media (max-width: 900px) {
  .tiny {
    min-height: var(--pt-press);
  }
}
</style>
