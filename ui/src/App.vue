<script setup lang="ts">
import { onMounted } from 'vue'
import { useDesk } from './stores/desk'
import { useSettings } from './stores/settings'

const desk = useDesk()
useSettings()
onMounted(desk.load)
</script>

<template>
  <RouterView v-if="desk.ready" />
  <main v-else class="waiting" aria-live="polite">
    <template v-if="desk.error">
      <p class="wrong">Pale Thicket does not answer: {{ desk.error }}</p>
      <button class="press" @click="desk.load">Try again</button>
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
