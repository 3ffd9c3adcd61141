<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import { onMounted, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { dayWords } from '../frame/words'

type Device = Schemas['Device']

const devices = ref<Device[]>([])
const confirm = useConfirm()
const { wrong, ask } = useAsk()

async function load() {
  const { data } = await ask(api.GET('/api/devices'))
  devices.value = data ?? []
}
onMounted(load)

function end(d: Device) {
  confirm.require({
    header: `End ${d.name}?`,
    message: `It may no longer send for ${d.whose}. What it has not sent stays on it, until ${d.whose} signs in there again.`,
    acceptLabel: 'End it',
    rejectProps: { label: 'Leave it', severity: 'secondary', outlined: true },
    defaultFocus: 'reject',
    accept: async () => {
      await ask(api.DELETE('/api/devices/{id}', { params: { path: { id: d.id } } }))
      await load()
    },
  })
}
</script>

<template>
  <section class="panel" aria-label="Devices">
    <h2>Devices that send for the crew</h2>
    <p v-if="!devices.length" class="soft">None has been let in yet. A device gets the token of whoever signs in on it, for 30 days.</p>
    <ul v-else class="rows">
      <li v-for="d in devices" :key="d.id">
        <strong>{{ d.name }}</strong> <span class="soft">{{ d.whose }}, until {{ dayWords(d.until.slice(0, 10)) }}</span>
        <span v-if="d.ended" class="soft">ended</span>
        <button v-else class="press" @click="end(d)">End</button>
      </li>
    </ul>
    <SaidWrong :lines="wrong" />
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 0.75rem;
}

h2 {
  font-size: 1.0625rem;
}

li {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 0.75rem;
  align-items: center;
  padding: 0.5rem 0;
}
</style>
