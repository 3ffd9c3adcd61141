<script setup lang="ts">
import { computed, onMounted } from 'vue'
import type { Schemas } from '../api/client'
import WhoseTrees from '../flora/WhoseTrees.vue'
import { useSession } from '../frame/session'
import { dayWords } from '../frame/words'
import { isAway } from '../woods/device'
import { useDecks } from './decks'

/** Chooses what is practised: all trees of a region or list, or a deck. */
const decks = useDecks()
const session = useSession()
const one = computed(() => decks.all.find((d) => d.id === decks.chosen))
const mine = computed(() => one.value && (one.value.by === session.name || !session.session?.needed || session.may('lead')))
onMounted(decks.load)

const words = (d: Schemas['KeptDeck']) => `${d.name}${d.crew ? ' (the crew’s)' : ''}${d.until ? `, by ${dayWords(d.until)}` : ''}`
</script>

<template>
  <div class="choice">
    <WhoseTrees v-if="!decks.chosen" />
    <label for="deck"
      >Deck
      <select id="deck" v-model="decks.chosen" data-deck>
        <option value="">all its trees</option>
        <option v-for="d in decks.all" :key="d.id" :value="d.id">{{ words(d) }}</option>
      </select>
    </label>
    <button v-if="one && mine" class="press quiet" @click="decks.drop(one.id)">Remove it</button>
    <button v-if="!isAway()" class="press" :aria-expanded="decks.setting" data-set-deck @click="decks.setting = !decks.setting">
      Set a deck
    </button>
  </div>
</template>

<style scoped>
.choice {
  min-width: 0;
}

.choice,
label {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
}

select {
  min-height: var(--pt-press);
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: var(--pt-snow);
  padding: 0 0.75rem;
  max-width: min(14rem, 100%);
}
</style>
