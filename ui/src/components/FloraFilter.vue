<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Character } from '../api/client'
import { useDesk } from '../stores/desk'
import { useFlora } from '../stores/flora'
import { capital, plain, sectionWord } from '../words'
import StateDrawing from './StateDrawing.vue'

const desk = useDesk()
const flora = useFlora()
const section = ref('bark')
const open = ref('')

const characters = computed(() =>
  (desk.desk?.sections?.find((s) => s.id === section.value)?.characters ?? []).filter((c) => c.kind !== 'numeric'),
)
const chosen = (c: Character) => flora.shown.find((s) => s.character === c.id)?.state
const states = (c: Character) =>
  c.kind === 'sign' ? [{ id: 'seen', means: 'it is there' }, { id: 'not-seen', means: 'it is not' }] : (c.states ?? [])

function press(c: Character, state: string) {
  void (chosen(c) === state ? flora.drop(c.id) : flora.show({ character: c.id, state }))
}
</script>

<template>
  <section class="panel" aria-label="Filter by what they show">
    <div class="row" role="group" aria-label="Part of the tree">
      <button v-for="s in desk.desk?.sections" :key="s.id" class="press" :aria-pressed="s.id === section" @click="section = s.id">
        {{ sectionWord(s.id) }}
      </button>
    </div>
    <div v-for="c in characters" :key="c.id" class="character">
      <button class="press quiet name" :aria-expanded="open === c.id" @click="open = open === c.id ? '' : c.id">
        <span>{{ capital(c.name) }}</span><span v-if="chosen(c)" class="soft">{{ plain(chosen(c) ?? '') }}</span>
      </button>
      <div v-if="open === c.id" class="states">
        <button v-for="s in states(c)" :key="s.id" class="press state" :aria-pressed="chosen(c) === s.id" @click="press(c, s.id)">
          <StateDrawing :character="c.id" :state="s.id" />
          <span>{{ capital(plain(s.id)) }}</span>
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
