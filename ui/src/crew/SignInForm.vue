<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useOutbox } from '../frame/outbox'
import { count } from '../frame/words'
import PasswordField from './PasswordField.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { useSession } from '../frame/session'

/** Over the page of somebody whose session ended: what they had on it stays beneath. */
defineProps<{ over?: boolean }>()
const session = useSession()
const outbox = useOutbox()
const name = ref(session.ended)
const password = ref('')
const kept = computed(() => outbox.items.filter((w) => !w.refused && (w.entry.by ?? '') === session.ended).length)
onMounted(() => {
  outbox.adopt()
  document.getElementById(name.value ? 'password' : 'who')?.focus()
})

async function signIn() {
  await session.signIn(name.value, password.value)
  password.value = ''
  if (session.ready) void outbox.resume()
}
</script>

<template>
  <main :class="{ over }" :role="over ? 'dialog' : undefined" :aria-modal="over || undefined" aria-labelledby="sign-in-title">
    <h1 id="sign-in-title">{{ over ? 'Your session ended' : 'Pale Thicket' }}</h1>
    <p v-if="over" class="says">
      Sign in again to go on; the page is as you left it.
      <template v-if="kept">{{ count(kept, 'entry is', 'entries are') }} kept on this device for {{ session.ended }}.</template>
    </p>
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

.over {
  position: fixed;
  inset: 0;
  z-index: 2000;
  background: var(--pt-paper);
}

.says {
  max-width: 22rem;
  text-align: center;
}

form {
  display: grid;
  gap: 0.75rem;
  width: min(22rem, 90vw);
}
</style>
