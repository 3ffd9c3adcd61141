<script setup lang="ts">
import { ref } from 'vue'
import { useSession } from '../stores/session'

const session = useSession()
const name = ref('')
const password = ref('')
const wrong = ref<string[]>([])
const busy = ref(false)

async function signIn() {
  busy.value = true
  wrong.value = await session.signIn(name.value, password.value)
  busy.value = false
  password.value = ''
}
</script>

<template>
  <main>
    <h1>Pale Thicket</h1>
    <form class="panel" @submit.prevent="signIn">
      <label class="field">Name <input id="who" v-model="name" required maxlength="80" autocomplete="username" /></label>
      <label class="field">Password <input id="password" v-model="password" required type="password" autocomplete="current-password" /></label>
      <p v-for="w in wrong" :key="w" class="wrong" role="alert">{{ w }}</p>
      <button class="press lead" type="submit" :disabled="busy">Sign in</button>
    </form>
    <p class="small soft">The lead of your crew gives out names and passwords.</p>
  </main>
</template>

<style scoped>
main {
  display: grid;
  gap: 1rem;
  place-content: center;
  justify-items: center;
  min-height: 100dvh;
  padding: 1rem;
}

form {
  display: grid;
  gap: 0.75rem;
  width: min(22rem, 90vw);
}
</style>
