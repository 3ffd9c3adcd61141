<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Character } from '../api/client'
import { useVocabulary } from '../frame/vocabulary'
import { useFlora } from './flora'
import { capital } from '../frame/words'
import StateDrawing from '../plates/StateDrawing.vue'

const vocabulary = useVocabulary()
const flora = useFlora()
const section = ref('bark')
const open = ref('')

const characters = computed(() => (vocabulary.sections.get(section.value)?.characters ?? []).filter((c) => c.kind !== 'numeric'))
const chosen = (c: Character) => flora.shown.find((s) => s.character === c.id)?.state
const states = (c: Character) =>
  c.kind === 'sign'
    ? [
        { id: 'seen', words: 'Seen', means: 'it is there' },
        { id: 'not-seen', words: capital(vocabulary.words?.not_seen ?? ''), means: 'it is not there' },
      ]
    : (c.states ?? [])

const words = (c: Character, state?: string) => states(c).find((s) => s.id === state)?.words

function press(c: Character, state: string) {
  void (chosen(c) === state ? flora.drop(c.id) : flora.show({ character: c.id, state }))
}
</script>

<template>
  <section class="panel" aria-label="Filter by what they show">
    <div class="row" role="group" aria-label="Part of the tree">
      <button v-for="s in vocabulary.words?.sections" :key="s.id" class="press" :aria-pressed="s.id === section" @click="section = s.id">
        {{ s.words }}
      </button>
    </div>
    <div v-for="c in characters" :key="c.id" class="character">
      <button class="press quiet name" :aria-expanded="open === c.id" @click="open = open === c.id ? '' : c.id">
        <span>{{ capital(c.name) }}</span><span v-if="chosen(c)" class="soft">{{ words(c, chosen(c)) }}</span>
      </button>
      <div v-if="open === c.id" class="states">
        <button v-for="s in states(c)" :key="s.id" class="press state" :aria-pressed="chosen(c) === s.id" @click="press(c, s.id)">
          <StateDrawing :character="c.id" :state="s.id" />
          <span>{{ s.words }}</span>
        </button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 0.25rem;
}

.row,
.states {
  display: flex;
  flex-wrap: wrap;
  gap: 0.375rem;
}

.row {
  margin-bottom: 0.375rem;
}

.name {
  display: flex;
  justify-content: space-between;
  width: 100%;
  text-align: left;
}

.state {
  display: flex;
  gap: 0.375rem;
  align-items: center;
}

.states {
  padding: 0.25rem 0.75rem 0.5rem;
}
</style>
