<script setup lang="ts">
import { ulid } from 'ulid'
import { computed, onMounted, ref, watch } from 'vue'
import { api, type Entry, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { useSession } from '../frame/session'

/** Keeps what was worked out with the tree that it is of; the readings stand as they were typed in a note of its log. */
const props = defineProps<{ tree: string; sum: Schemas['SumAsked']; result: Schemas['SumResult']; given: string }>()
const session = useSession()
const view = ref<Schemas['TreeView'] | null>(null)
const kept = ref('')
const { wrong, busy, ask } = useAsk({ typed: true })
const what = computed(() => (props.sum.fills === 'height' ? 'height' : props.sum.fills === 'diameter' ? 'diameter' : ''))
watch(
  () => props.result,
  () => (kept.value = ''),
)
onMounted(async () => {
  const { data } = await ask(api.GET('/api/trees/{id}', { params: { path: { id: props.tree } } }))
  if (data) view.value = data
})

async function enter(entry: Partial<Entry>): Promise<boolean> {
  const by = session.name ? { by: session.name } : {}
  const body = { id: ulid(), ...by, ...entry } as Entry
  return (await ask(api.POST('/api/trees/{id}/entries', { params: { path: { id: props.tree } }, body }))).ok
}

async function keep() {
  if (!view.value || !props.result.value) return
  const note = `${props.sum.words}: ${props.result.says}; ${props.given}`
  if (what.value === 'height') {
    if (!(await enter({ kind: 'facts', facts: { height_m: Math.round(props.result.value * 100) / 100 } }))) return
    if (!(await enter({ kind: 'note', note }))) return
  } else {
    const look = ulid()
    const typed = `${props.result.value.toFixed(1)} cm`
    if (!(await enter({ id: look, kind: 'look', from: 'tree', note }))) return
    if (!(await enter({ kind: 'score', look, score: { character: 'form.dbh', typed } }))) return
  }
  kept.value = `${view.value.tree.tag} has it as its ${what.value}.`
}
</script>

<template>
  <div v-if="what && view" class="keep">
    <button class="press lead" :disabled="busy || kept !== ''" data-keep-measured @click="keep">
      Keep as the {{ what }} of {{ view.tree.tag }}
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
