<script setup lang="ts">
import AutoComplete from 'primevue/autocomplete'
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { useLate } from '../frame/late'
import { useVocabulary } from '../frame/vocabulary'
import type { Sure } from './practice'
import SureBar from './SureBar.vue'

type Term = Schemas['NameTerm']

/** Says whose a part is, by any name of any rank, typed or chosen. */
const props = defineProps<{ card: Schemas['Card']; busy: boolean }>()
const emit = defineEmits<{ say: [answer: Partial<Schemas['CardAnswer']>] }>()
const sure = defineModel<Sure>('sure', { required: true })

const late = useLate()
const vocabulary = useVocabulary()
const typed = ref<Term | string | null>(null)
const found = ref<Term[]>([])
const unknown = ref('')
const names = computed(() => (vocabulary.words?.names ?? []).filter((n) => n.name))

function search(e: { query: string }) {
  if (late(e.query, typed.value)) return void (found.value = [])
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
  if (name) return emit('say', { rank: name.rank as Schemas['CardAnswer']['rank'], name: name.name, sure: sure.value })
  unknown.value = typed.value
    ? `“${String(typed.value)}” may be several names, or none: choose one from the list.`
    : 'Say a name, or press “I do not know”.'
}
</script>

<template>
  <form @submit.prevent="say">
    <h2>{{ props.card.asks }}</h2>
    <p v-if="card.age" class="soft">A {{ card.age }} tree<template v-if="card.part === 'bark'">, at breast height</template>.</p>
    <p v-if="card.dim" class="soft">The light is poor.</p>
    <label class="field" for="practice-name"
      >As far as it shows: a species, a group, a genus or a family
      <AutoComplete
        ref="list"
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
    <SureBar v-model="sure" />
    <div class="bar">
      <button class="press lead" data-say :disabled="busy">Say it</button>
      <button type="button" class="press" data-unknown :disabled="busy" @click="emit('say', {})">I do not know</button>
    </div>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 0.75rem;
}

.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}
</style>
