<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { useKeep } from './keep'
import { useSums } from './sums'
import { asked, type Given, type Sum } from './work'

/** Keeps readings with the tree that they are of: what they come to follows from them. */
const props = defineProps<{ tree: string; sum: Sum; result: Schemas['SumResult']; given: Given; instrument: string }>()
const sums = useSums()
const tag = ref('')
const kept = ref('')
const { ask } = useAsk()
const { wrong, busy, keep } = useKeep()
watch(
  () => props.result,
  () => (kept.value = ''),
)
onMounted(async () => {
  const { data } = await ask(api.GET('/api/trees/{id}', { params: { path: { id: props.tree } } }))
  if (data) tag.value = data.tree.tag
})

async function go() {
  const ok = await keep(props.tree, props.sum, asked(props.sum, props.given, sums.unit), props.instrument)
  if (ok) kept.value = `${tag.value} has it as its ${props.sum.fills}.`
}
</script>

<template>
  <div v-if="sum.fills && tag" class="keep">
    <button class="press lead" :disabled="busy || kept !== ''" data-keep-measured @click="go">
      Keep as the {{ sum.fills }} of {{ tag }}
    </button>
    <p v-if="kept" role="status">{{ kept }} <RouterLink :to="`/trees/${tree}/story`">Its story</RouterLink> has the readings.</p>
    <SaidWrong :lines="wrong" />
  </div>
</template>

<style scoped>
.keep {
  display: grid;
  gap: 0.5rem;
  margin-top: 0.5rem;
}
</style>
