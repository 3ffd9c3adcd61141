<script setup lang="ts">
import { ref } from 'vue'
import PasswordField from './PasswordField.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { useSession } from '../frame/session'

const session = useSession()
const name = ref('')
const password = ref('')

async function signIn() {
  await session.signIn(name.value, password.value)
  password.value = ''
}
</script>

<template>
  <main>
    <h1>Pale Thicket</h1>
    <form class="panel" @submit.prevent="signIn">
      <label class="field">Name <input id="who" v-model="name" required maxlength="80" autocomplete="username" /></label>
      <label class="field">Password <PasswordField id="password" v-model="password" kind="current-password" /></label>
      <SaidWrong :lines="session.wrong" />
      <button class="press lead" type="submit" :disabled="session.busy">Sign in</button>
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
