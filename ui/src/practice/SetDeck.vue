<script setup lang="ts">
import AutoComplete from 'primevue/autocomplete'
import { computed, onMounted, ref } from 'vue'
import type { Schemas } from '../api/client'
import { useFlora } from '../flora/flora'
import SaidWrong from '../frame/SaidWrong.vue'
import { useSession } from '../frame/session'
import { useVocabulary } from '../frame/vocabulary'
import { useStands } from '../trees/stands'
import { useDecks } from './decks'

/** Sets a deck: for oneself, or by a lead for the crew. */
const decks = useDecks()
const stands = useStands()
const session = useSession()
const vocabulary = useVocabulary()
const flora = useFlora()
const what = ref<'stand' | 'taxa'>('stand')
const place = ref('')
const taxa = ref<Schemas['NameTerm'][]>([])
const found = ref<Schemas['NameTerm'][]>([])
const name = ref('')
const until = ref('')
const crew = ref(false)
const species = computed(() => (vocabulary.words?.names ?? []).filter((n) => n.rank === 'species' && n.name))
onMounted(stands.load)
function search(e: { query: string }) {
  const q = e.query.trim().toLowerCase()
  found.value = species.value.filter((n) => n.words.toLowerCase().includes(q) && !taxa.value.includes(n)).slice(0, 30)
}

async function keep() {
  const [tract, stand] = place.value.split('\n')
  const kept = await decks.put({
    name: name.value.trim(),
    region: flora.among.region,
    ...(flora.among.list ? { list: flora.among.list } : {}),
    ...(what.value === 'stand' ? { tract, stand } : { taxa: taxa.value.map((t) => t.name) }),
    ...(until.value ? { until: until.value } : {}),
    crew: crew.value,
  } as Schemas['KeptDeck'])
  if (kept) decks.setting = false
}
</script>

<template>
  <form class="panel" @submit.prevent="keep">
    <h2>Set a deck</h2>
    <label class="field">Name <input v-model="name" required maxlength="80" placeholder="These by December" data-deck-name /></label>
    <label class="field"
      >Of
      <select v-model="what">
        <option value="stand">what grows in a stand</option>
        <option value="taxa">these trees</option>
      </select></label
    >
    <label v-if="what === 'stand'" class="field"
      >Stand
      <select v-model="place" required data-deck-stand>
        <option v-for="p in stands.places" :key="p.key" :value="p.key">{{ p.words }}</option>
      </select></label
    >
    <label v-else class="field" for="deck-taxa"
      >Trees
      <AutoComplete
        v-model="taxa"
        input-id="deck-taxa"
        multiple
        :suggestions="found"
        option-label="words"
        fluid
        placeholder="type part of a name"
        @complete="search"
      />
    </label>
    <label class="field">To be known by <input v-model="until" type="date" /></label>
    <label v-if="session.may('lead') && session.session?.needed" class="check"
      ><input v-model="crew" type="checkbox" /> For the whole crew</label
    >
    <SaidWrong :lines="decks.wrong" />
    <button class="press lead" :disabled="decks.busy" data-keep-deck>Keep it</button>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 0.75rem;
  max-width: 32rem;
}

h2 {
  font-size: 1.0625rem;
}
</style>
