<script setup lang="ts">
import PageFrame from '../frame/PageFrame.vue'
import StateDrawing from '../plates/StateDrawing.vue'
import { useVocabulary } from '../frame/vocabulary'
import { capital, seconds } from '../frame/words'

const vocabulary = useVocabulary()
</script>

<template>
  <PageFrame title="Characters" hint="Every winter character, with its states drawn; press one for what it means and which trees show it">
    <section v-for="s in vocabulary.words?.sections" :key="s.id" :aria-label="s.words">
      <h2>{{ s.words }}</h2>
      <ul>
        <li v-for="c in s.characters" :key="c.id" class="panel">
          <RouterLink :to="`/characters/${c.id}`">
            <strong>{{ capital(c.name) }}</strong> <span class="small soft">{{ seconds(c.seconds) }}</span>
            <span class="small">{{ c.look }}</span>
            <span class="row">
              <StateDrawing v-for="st in c.states?.slice(0, 6)" :key="st.id" :character="c.id" :state="st.id" />
              <StateDrawing v-if="c.kind === 'sign'" :character="c.id" state="seen" />
            </span>
          </RouterLink>
        </li>
      </ul>
    </section>
  </PageFrame>
</template>

<style scoped>
h2 {
  font-size: 1.125rem;
  margin-bottom: 0.5rem;
}

ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(19rem, 100%), 1fr));
  gap: 0.5rem;
}

a {
  display: grid;
  gap: 0.125rem;
  color: inherit;
  text-decoration: none;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.125rem;
  min-height: 1rem;
}
</style>
