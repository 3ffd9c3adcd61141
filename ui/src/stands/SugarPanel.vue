<script setup lang="ts">
import { ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { figure, percent } from '../frame/words'

/** Which maples of a stand would bear taps, by the chance of the name and the diameter. */
const props = defineProps<{ tract: string; stand: string }>()
const bush = ref<Schemas['Sugarbush'] | null>(null)
const open = ref(false)
const sugar = ref('2.15')
const sap = ref<Schemas['SumResult'] | null>(null)
const { wrong, ask } = useAsk()
const sums = useAsk()

async function load() {
  bush.value = null
  if (!open.value) return
  const query = { tract: props.tract || undefined, stand: props.stand || undefined }
  const { data } = await ask(api.GET('/api/sugarbush', { params: { query } }))
  if (data) bush.value = data
  await ratio()
}
async function ratio() {
  const asked = [{ id: 'sap', sum: 'sap', sugar: Number(sugar.value.replace(',', '.')) }] as unknown as Schemas['SumsAsked']['sums']
  const { data } = await sums.ask(api.POST('/api/sums', { body: { sums: asked } }))
  if (data) sap.value = data[0] ?? null
}
watch(() => [props.tract, props.stand, open.value], load)
</script>

<template>
  <details class="sugar" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary class="press quiet">Sugaring</summary>
    <SaidWrong :lines="[...wrong, ...sums.wrong.value]" again @again="load" />
    <template v-if="bush">
      <p v-for="s in bush.says" :key="s">{{ s }}</p>
      <label class="field sap"
        >Sugar of the sap, °Brix <input v-model="sugar" inputmode="decimal" data-sugar @change="ratio" />
        <span class="small" role="status">{{ sap?.error ?? (sap?.says ? `${sap.says} of sap to one of syrup` : '') }}</span>
      </label>
      <table v-if="bush.maples?.length">
        <thead>
          <tr class="small soft">
            <th scope="col">Tree</th>
            <th scope="col">Sugar or black maple</th>
            <th scope="col">Any maple</th>
            <th scope="col">Diameter</th>
            <th scope="col">Taps</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="m in bush.maples.slice(0, 40)" :key="m.id">
            <th scope="row">
              <RouterLink :to="`/trees/${m.id}`">{{ m.tag }}</RouterLink> <span v-if="!stand" class="small soft">{{ m.stand }}</span>
            </th>
            <td>{{ percent(m.sugar) }}</td>
            <td>{{ percent(m.maple) }}</td>
            <td>{{ m.dbh_cm ? `${figure(m.dbh_cm)} cm` : '–' }}</td>
            <td>
              {{ m.taps }} <span v-if="m.why" class="small soft">{{ m.why }}</span>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="bush.maples && bush.maples.length > 40" class="small soft">The first 40 of {{ bush.maples.length }}.</p>
    </template>
  </details>
</template>

<style scoped>
.sugar {
  width: 100%;
}

summary {
  width: fit-content;
  border-color: transparent;
  padding: 0.75rem 0;
  font-weight: 600;
}

.sap {
  max-width: 20rem;
  margin: 0.5rem 0;
}

table {
  display: block;
  overflow-x: auto;
  border-collapse: collapse;
}

th,
td {
  padding: 0 1rem 0 0;
  text-align: left;
  border-top: 1px solid var(--pt-line);
  font-variant-numeric: tabular-nums;
  font-weight: 400;
}
</style>
