<script setup lang="ts">
import { onMounted, watch } from 'vue'
import SignInForm from './components/SignInForm.vue'
import { useDesk } from './stores/desk'
import { useSession } from './stores/session'
import { useSettings } from './stores/settings'

const desk = useDesk()
const session = useSession()
useSettings()

/** Asks both at once: on one's own machine nobody signs in. What fails is said by the desk. */
const load = () => Promise.allSettled([session.load(), desk.load()])
onMounted(load)
watch(() => session.ready, (ready) => ready && !desk.ready && void load())
</script>

<template>
  <SignInForm v-if="session.session && !session.ready" />
  <RouterView v-else-if="desk.ready" />
  <main v-else class="waiting" aria-live="polite">
    <template v-if="desk.error">
      <p class="wrong">Pale Thicket does not answer: {{ desk.error }}</p>
      <button class="press" @click="load">Try again</button>
    </template>
    <p v-else>Opening the book…</p>
  </main>
</template>

<style scoped>
.waiting {
  display: grid;
  gap: 1rem;
  place-content: center;
  min-height: 100dvh;
  padding: 1rem;
}
</style>
