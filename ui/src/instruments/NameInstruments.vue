<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { useSession } from '../frame/session'
import InstrumentBar from './InstrumentBar.vue'

/** Which instruments are listened to where the program runs, and where they are. */
const session = useSession()
const all = ref<Schemas['Instrument'][]>([])
const said = ref('')
const { wrong, busy, ask } = useAsk({ typed: true })
const kinds = [
  { id: 'gnss', words: 'satellite receiver' },
  { id: 'caliper', words: 'caliper' },
  { id: 'hypsometer', words: 'laser hypsometer' },
  { id: 'weather', words: 'weather station' },
] as const

onMounted(async () => {
  const { data } = await ask(api.GET('/api/instruments'))
  all.value = (data?.all ?? []).map(({ name, kind, address, baud }) => ({ name, kind, address, ...(baud ? { baud } : {}) }))
})

async function keep() {
  said.value = ''
  const instruments = all.value.map((i) => ({ ...i, baud: i.baud || undefined }))
  const { ok } = await ask(api.PUT('/api/instruments', { body: { instruments } }))
  if (ok) said.value = 'Kept. Above is how each does.'
}
const serial = (address: string) => /^(\/dev\/|COM\d)/.test(address)
</script>

<template>
  <section class="panel" aria-label="Instruments">
    <h2>Instruments</h2>
    <p class="small soft">
      Receivers, calipers and hypsometers that speak over a serial line or the network, and weather stations (OGC SensorThings), by where
      they are from the machine that this program runs on. A reading is offered where it fits, and kept only when somebody takes it.
    </p>
    <InstrumentBar station />
    <form v-if="session.may('lead')" @submit.prevent="keep">
      <div v-for="(one, i) in all" :key="i" class="one" data-named-instrument>
        <label class="field">Name <input v-model="one.name" required maxlength="40" /></label>
        <label class="field"
          >Kind
          <select v-model="one.kind">
            <option v-for="k in kinds" :key="k.id" :value="k.id">{{ k.words }}</option>
          </select></label
        >
        <label class="field"
          >Address
          <input
            v-model="one.address"
            required
            maxlength="200"
            autocomplete="off"
            :placeholder="one.kind === 'weather' ? 'http://127.0.0.1:8094' : '127.0.0.1:8091 or /dev/ttyUSB0'"
        /></label>
        <label v-if="serial(one.address)" class="field"
          >Baud <input v-model.number="one.baud" type="number" min="0" max="921600" placeholder="4800"
        /></label>
        <button type="button" class="press quiet" :aria-label="`Take ${one.name || 'this one'} out`" @click="all.splice(i, 1)">
          Take out
        </button>
      </div>
      <SaidWrong :lines="wrong" />
      <p v-if="said" role="status">{{ said }}</p>
      <span class="acts">
        <button type="button" class="press" data-add-instrument @click="all.push({ name: '', kind: 'caliper', address: '' })">
          One more instrument
        </button>
        <button class="press lead" :disabled="busy" data-keep-instruments>Keep these</button>
      </span>
    </form>
  </section>
</template>

<style scoped>
.panel,
form {
  display: grid;
  gap: 0.75rem;
}

h2 {
  font-size: 1.125rem;
}

.one {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(11rem, 100%), 1fr));
  gap: 0.5rem;
  align-items: end;
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}
</style>
