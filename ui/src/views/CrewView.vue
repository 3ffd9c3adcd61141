<script setup lang="ts">
import { onMounted, ref } from 'vue'
import PageFrame from '../components/PageFrame.vue'
import { api, problemLines, type Account } from '../api/client'
import { useSession } from '../stores/session'

const session = useSession()
const crew = ref<Account[]>([])
const fresh = ref({ name: '', role: 'observer' as Account['role'], password: '' })
const wrong = ref<string[]>([])
const said = ref('')
const roles = [
  { id: 'lead', words: 'lead: everything, files and the crew too' },
  { id: 'observer', words: 'observer: scores, names, visits, photographs' },
  { id: 'reader', words: 'reader: reads only' },
] as const

async function load() {
  const { data } = await api.GET('/api/crew')
  crew.value = data ?? []
}
onMounted(load)

async function tell(done: Promise<{ error?: unknown }>, words: string): Promise<boolean> {
  said.value = ''
  try {
    const { error } = await done
    wrong.value = error ? problemLines(error as Parameters<typeof problemLines>[0]) : []
  } catch {
    wrong.value = ['No connection to the book. What you typed is still here; try again.']
  }
  if (wrong.value.length === 0) said.value = words
  await load()
  return wrong.value.length === 0
}

async function add() {
  if (await tell(api.POST('/api/crew', { body: fresh.value }), `${fresh.value.name} may sign in.`)) fresh.value = { name: '', role: 'observer', password: '' }
}
const change = (a: Account, body: { role?: Account['role']; closed?: boolean }) =>
  tell(api.PATCH('/api/crew/{name}', { params: { path: { name: a.name } }, body }), `${a.name} is changed, and signed out everywhere.`)
</script>

<template>
  <PageFrame title="Crew" hint="Who may sign in when the book is served beyond this machine">
    <section v-if="!session.session?.needed" class="panel own">
      <p>On this machine nobody signs in. Your name stands beside what you enter:</p>
      <label class="field">Your name <input id="own-name" v-model="session.own" maxlength="80" placeholder="Wren Halloran" /></label>
    </section>
    <p v-else>You are {{ session.name }}, {{ session.session.role }}. <button class="press" @click="session.signOut">Sign out</button></p>
    <ul v-if="crew.length" class="rows" aria-label="Crew">
      <li v-for="a in crew" :key="a.id">
        <strong>{{ a.name }}</strong>
        <select :value="a.role" :aria-label="`Role of ${a.name}`" @change="change(a, { role: ($event.target as HTMLSelectElement).value as Account['role'] })">
          <option v-for="r in roles" :key="r.id" :value="r.id">{{ r.words }}</option>
        </select>
        <button class="press" @click="change(a, { closed: !a.closed })">{{ a.closed ? 'Open again' : 'Close' }}</button>
        <span v-if="a.closed" class="soft small">closed: may not sign in; what they entered stays</span>
      </li>
    </ul>
    <form v-if="session.may('lead')" class="panel" @submit.prevent="add">
      <h2>Add somebody</h2>
      <label class="field">Name <input v-model="fresh.name" required maxlength="80" autocomplete="off" /></label>
      <label class="field">Role <select v-model="fresh.role"><option v-for="r in roles" :key="r.id" :value="r.id">{{ r.words }}</option></select></label>
      <label class="field">Password, 15 characters or more; several words do well <input v-model="fresh.password" required type="password" minlength="15" maxlength="200" autocomplete="new-password" /></label>
      <p v-for="w in wrong" :key="w" class="wrong" role="alert">{{ w }}</p>
      <p v-if="said" role="status">{{ said }}</p>
      <button class="press lead" type="submit">Add</button>
    </form>
  </PageFrame>
</template>

<style scoped>
form,
.own {
  display: grid;
  gap: 0.75rem;
  max-width: 32rem;
}

h2 {
  font-size: 1.0625rem;
}

li {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 0.75rem;
  align-items: center;
  padding: 0.5rem 1rem;
}

li strong {
  min-width: 10rem;
}

select {
  min-height: var(--pt-press);
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: var(--pt-snow);
  padding: 0 0.5rem;
}
</style>
