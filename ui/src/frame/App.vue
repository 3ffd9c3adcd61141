<script setup lang="ts">
import { defineAsyncComponent, onMounted, ref, watch } from 'vue'
import SaidWrong from './SaidWrong.vue'
import { useSession } from './session'
import { useSettings } from './settings'
import { useVocabulary } from './vocabulary'
import { goHome, stuck, taken } from '../woods/device'
import { onOutdated } from '../woods/kept'

const SignInForm = defineAsyncComponent(() => import('../crew/SignInForm.vue'))
const BookStuck = defineAsyncComponent(() => import('../woods/BookStuck.vue'))
const CheckingBar = defineAsyncComponent(() => import('../checks/CheckingBar.vue'))
const Toast = defineAsyncComponent(() => import('primevue/toast'))
const ConfirmDialog = defineAsyncComponent(() => import('primevue/confirmdialog'))

const vocabulary = useVocabulary()
const session = useSession()
useSettings()

/** Asks both at once: on one's own machine nobody signs in. What fails is said below. */
const load = () => Promise.allSettled([session.load(), vocabulary.load()])
onMounted(load)

/** What was shown before the device's book was open is shown anew where it is out of date, unless somebody writes. */
const shown = ref(0)
onOutdated(() => {
  if (!document.activeElement?.matches('input, textarea, select')) shown.value++
})
watch(
  () => session.checking,
  () => shown.value++, // nothing of the other book stays on the page
)
watch(
  () => session.ready,
  (ready) => ready && !vocabulary.ready && void load(),
)
</script>

<template>
  <CheckingBar v-if="session.ready && session.checking" />
  <BookStuck v-if="stuck" />
  <main v-if="taken" class="waiting">
    <h1>The book is no longer on this device</h1>
    <p>
      The tracts that were taken along were cleared away, by the browser or by hand. What had gone home is there; what had not is lost. Take
      them along anew when home is in reach.
    </p>
    <p><button class="press lead" data-go-home @click="goHome">Go on with home’s book</button></p>
  </main>
  <SignInForm v-else-if="session.session && !session.ready && !session.ended" />
  <RouterView v-else-if="vocabulary.ready" :key="shown" :inert="Boolean(session.ended)" />
  <main v-else class="waiting" aria-live="polite">
    <SaidWrong v-if="vocabulary.wrong.length" :lines="vocabulary.wrong" again @again="load" />
    <p v-else>Opening the book…</p>
  </main>
  <SignInForm v-if="session.ended" over />
  <Toast position="bottom-center" />
  <ConfirmDialog />
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
