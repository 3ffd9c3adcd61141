<script setup lang="ts">
import { ulid } from 'ulid'
import { ref, watch } from 'vue'
import { api, type Visit } from '../api/client'
import OutsideNow from '../day/OutsideNow.vue'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { useSession } from '../frame/session'
import { useVocabulary } from '../frame/vocabulary'
import { count, dayWords } from '../frame/words'

const props = defineProps<{ tract: string }>()
const visits = ref<Visit[]>([])
const open = ref<Visit | null>(null)
const session = useSession()
const vocabulary = useVocabulary()
const { ask: read } = useAsk() // the page above says when there is no connection
const { wrong, busy, ask } = useAsk({ typed: true })

async function load() {
  const { data } = await read(api.GET('/api/visits', { params: { query: { tract: props.tract || undefined } } }))
  if (data) visits.value = data
}
watch(() => props.tract, load, { immediate: true })

function start() {
  const now = new Date()
  const day = `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, '0')}-${String(now.getDate()).padStart(2, '0')}`
  open.value = { id: ulid(), tract: props.tract, day, crew: '', weather: '', snow: 'none', remarks: '' }
}

function use(field: string, value: string, words: string) {
  if (!open.value) return
  if (field === 'snow') open.value.snow = value as NonNullable<Visit['snow']>
  if (!open.value.weather) open.value.weather = words
}

async function keep() {
  if (!open.value) return
  const { id, tract, day, crew, weather, snow, remarks } = open.value
  const { ok } = await ask(api.PUT('/api/visits', { body: { id, tract, day, crew, weather, snow, remarks } }))
  if (!ok) return
  open.value = null
  await load()
}
</script>

<template>
  <section aria-label="Visits">
    <h3>Visits <button v-if="tract && session.may('observer')" class="press" data-new-visit @click="start">Enter a visit</button></h3>
    <p v-if="!visits.length" class="soft">Nobody has looked at a tree here yet. A visit is made by itself with the first look of a day.</p>
    <form v-if="open" class="panel" @submit.prevent="keep">
      <label class="field">Day <input v-model="open.day" type="date" required /></label>
      <label class="field">Crew <input v-model="open.crew" maxlength="200" /></label>
      <label class="field">Weather <input v-model="open.weather" maxlength="200" placeholder="Gray, 2 °C" /></label>
      <label class="field"
        >Snow
        <select v-model="open.snow">
          <option v-for="s in vocabulary.words?.snows" :key="s.id" :value="s.id">{{ s.words }}</option>
        </select></label
      >
      <OutsideNow :is="{ snow: open.snow ?? 'none' }" class="wide" @use="use" />
      <label class="field wide">Remarks <input v-model="open.remarks" maxlength="2000" /></label>
      <SaidWrong class="wide" :lines="wrong" />
      <span class="wide"
        ><button class="press lead" type="submit" :disabled="busy">Keep</button>
        <button class="press quiet" type="button" @click="open = null">Leave</button></span
      >
    </form>
    <ul v-if="visits.length" class="rows">
      <li v-for="v in visits" :key="v.id">
        <button
          class="press quiet row"
          :disabled="!session.may('observer')"
          :aria-label="`Change the visit of ${dayWords(v.day)}`"
          @click="open = { ...v }"
        >
          <strong>{{ dayWords(v.day) }}</strong>
          <span>{{ v.crew || 'crew not entered' }}</span>
          <span class="soft small">{{ [v.weather, v.snow_words].filter(Boolean).join(' · ') }}</span>
          <span class="soft small end">{{ count(v.trees ?? 0, 'tree') }}, {{ count(v.looks ?? 0, 'look') }}</span>
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 0.5rem;
  width: 100%;
}

h3 {
  display: flex;
  align-items: center;
  justify-content: space-between;
  font-size: 1.0625rem;
}

form {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 0.5rem;
}

.wide {
  grid-column: 1 / -1;
}

.row {
  display: grid;
  grid-template-columns: 7.5rem 1fr 1fr 9rem;
  gap: 0.25rem 0.75rem;
  align-items: center;
  width: 100%;
  border-color: transparent;
  text-align: left;
}

.end {
  text-align: right;
}

@media (max-width: 700px) {
  form {
    grid-template-columns: minmax(0, 1fr);
  }

  .row {
    grid-template-columns: 7.5rem minmax(0, 1fr);
  }

  .end {
    text-align: left;
  }
}
</style>
