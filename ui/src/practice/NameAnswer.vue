<script setup lang="ts">
import AutoComplete from 'primevue/autocomplete'
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import { useLate } from '../frame/late'
import { usePractice, type Sure } from './practice'
import SureBar from './SureBar.vue'

type Term = Schemas['NameTerm']

/** Says whose a part is, by any name of any rank, typed or chosen. */
const props = defineProps<{ card: Schemas['Card']; busy: boolean }>()
const emit = defineEmits<{ say: [answer: Partial<Schemas['CardAnswer']>] }>()
const sure = defineModel<Sure>('sure', { required: true })

const late = useLate()
const practice = usePractice()
const typed = ref<Term | string | null>(null)
const found = ref<Term[]>([])
const which = ref<Term[]>([]) // what was typed may be any of these
const unknown = ref('')

async function search(e: { query: string }) {
  unknown.value = ''
  which.value = []
  const names = await practice.suggest(props.card.id, e.query)
  found.value = late(e.query, typed.value) ? [] : names
}

function choose(term: Term) {
  typed.value = term
  which.value = []
  unknown.value = ''
}

async function say() {
  if (!typed.value) return void (unknown.value = 'Say a name, or press “I do not know”.')
  let name = typed.value
  if (typeof name === 'string') {
    const { data: meant, wrong } = await practice.meant(props.card.id, name)
    if (!meant?.clear) {
      which.value = (meant?.names ?? []).slice(0, 6)
      unknown.value = wrong[0] ?? (which.value.length ? `Which do you mean by “${name}”?` : `No tree here is called “${name}”.`)
      return
    }
    name = meant.names![0]!
  }
  emit('say', { rank: name.rank as Schemas['CardAnswer']['rank'], name: name.name, sure: sure.value })
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
    <div v-if="which.length" class="bar" data-which>
      <button v-for="t in which" :key="t.rank + t.name" type="button" class="press" @click="choose(t)">{{ t.words }}</button>
    </div>
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
