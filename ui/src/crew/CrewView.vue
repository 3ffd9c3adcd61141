<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import { useToast } from 'primevue/usetoast'
import { onMounted, ref } from 'vue'
import DeviceList from './DeviceList.vue'
import MemberRow from './MemberRow.vue'
import PasswordField from './PasswordField.vue'
import PageFrame from '../frame/PageFrame.vue'
import { api, type Member, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { useOutbox } from '../frame/outbox'
import { useSession } from '../frame/session'
import { entries } from '../frame/words'
import { useAway } from '../woods/away'

const session = useSession()
const outbox = useOutbox()
const away = useAway()
const crew = ref<Member[]>([])
const fresh = ref({ name: '', role: 'observer' as Member['role'], password: '' })
const confirm = useConfirm()
const toast = useToast()
const { ask: read } = useAsk()
const { wrong, busy, ask } = useAsk({ typed: true })
const roles = [
  { id: 'lead', words: 'lead: everything, files and the crew too' },
  { id: 'observer', words: 'observer: scores, names, visits, photographs' },
  { id: 'reader', words: 'reader: reads only' },
] as const

/** What waits to be sent stays here, and goes out once its author signs in again. */
function signOut() {
  const waits = outbox.waiting.length + (away.status?.waiting?.find((w) => w.by === session.name)?.count ?? 0)
  if (!waits) return void session.signOut()
  confirm.require({
    header: 'Sign out?',
    message: `Not sent yet: ${entries(waits)} of yours. They stay on this device until they are sent. Sign in here again to send them.`,
    acceptLabel: 'Sign out',
    rejectProps: { label: 'Stay', severity: 'secondary', outlined: true },
    defaultFocus: 'reject',
    accept: () => void session.signOut(),
  })
}

async function load() {
  const { data } = await read(api.GET('/api/crew'))
  if (data) crew.value = data
}
onMounted(load)

async function tell(question: Parameters<typeof ask>[0], summary: string): Promise<boolean> {
  const { ok } = await ask(question)
  if (ok) toast.add({ severity: 'success', summary, life: 6000 })
  await load()
  return ok
}

async function add() {
  if (await tell(api.POST('/api/crew', { body: fresh.value }), `${fresh.value.name} may sign in.`))
    fresh.value = { name: '', role: 'observer', password: '' }
}

/** Asks first where somebody is signed out in the middle of what they do, or where one shuts oneself out. */
function change(a: Member, body: Schemas['MemberChange']) {
  const change = () =>
    void tell(
      api.PATCH('/api/crew/{name}', { params: { path: { name: a.name } }, body }),
      `${a.name} is changed, and signed out everywhere.`,
    )
  const self = a.name === session.name && session.session?.needed
  const less = body.role && roles.findIndex((r) => r.id === body.role) > roles.findIndex((r) => r.id === a.role)
  if (!body.closed && !(self && less)) return change()
  const whose = self ? 'your own account' : `the account of ${a.name}`
  confirm.require({
    header: body.closed ? `Close ${whose}?` : `Give up the role of ${a.role}?`,
    message: body.closed
      ? `${self ? 'You are' : 'They are'} signed out everywhere at once and may not sign in. What ${self ? 'you' : 'they'} entered stays.`
      : 'You are signed out at once, and only another lead can give it back to you.',
    acceptLabel: body.closed ? 'Close it' : 'Give it up',
    rejectProps: { label: 'Leave it', severity: 'secondary', outlined: true },
    defaultFocus: 'reject',
    accept: change,
  })
}
</script>

<template>
  <PageFrame title="People" hint="Who may sign in when the book is served beyond this machine">
    <section v-if="!session.session?.needed" class="panel own">
      <p>On this machine nobody signs in. Your name stands beside what you enter:</p>
      <label class="field">Your name <input id="own-name" v-model="session.own" maxlength="80" placeholder="Wren Halloran" /></label>
    </section>
    <template v-else>
      <p>You are {{ session.name }}, {{ session.session.role }}. <button class="press" data-sign-out @click="signOut">Sign out</button></p>
      <SaidWrong :lines="session.notOut" />
    </template>
    <ul v-if="crew.length" class="rows" aria-label="Crew">
      <MemberRow v-for="a in crew" :key="a.id" :member="a" :roles="roles" :busy="busy" @change="change(a, $event)" />
    </ul>
    <SaidWrong :lines="wrong" />
    <form v-if="session.may('lead')" class="panel" @submit.prevent="add">
      <h2>Add somebody</h2>
      <label class="field">Name <input v-model="fresh.name" required maxlength="80" autocomplete="off" /></label>
      <label class="field"
        >Role
        <select v-model="fresh.role">
          <option v-for="r in roles" :key="r.id" :value="r.id">{{ r.words }}</option>
        </select></label
      >
      <label class="field"
        >Password, 15 characters or more; several words do well
        <PasswordField id="new-password" v-model="fresh.password" kind="new-password" :minlength="15"
      /></label>
      <button class="press lead" type="submit" :disabled="busy">Add</button>
    </form>
    <DeviceList v-if="session.session?.needed && session.may('lead')" />
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
</style>
