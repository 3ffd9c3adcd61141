<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import { useToast } from 'primevue/usetoast'
import { onMounted, ref } from 'vue'
import PageFrame from '../frame/PageFrame.vue'
import { api, type List } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import WeighingAgain from '../frame/WeighingAgain.vue'
import { useWeighing } from '../frame/weighing'
import { useVocabulary } from '../frame/vocabulary'
import { useSession } from '../frame/session'
import { capital, count } from '../frame/words'
import ListEdit from './ListEdit.vue'

const vocabulary = useVocabulary()
const lists = ref<List[]>([])
const session = useSession()
const editing = ref<{ list?: List }>() // none: no list is being made or changed
const confirm = useConfirm()
const toast = useToast()
const reading = useAsk()
const { wrong, ask } = useAsk()

async function load() {
  const { data } = await reading.ask(api.GET('/api/lists'))
  lists.value = data ?? []
}
onMounted(load)

const { weighing, follow } = useWeighing()

const said = (summary: string) => toast.add({ severity: 'success', summary, life: 6000 })

async function kept(l: List) {
  said(`Kept: ${l.name}, ${count(Object.keys(l.taxa).length, 'tree')}. New trees can be ranked among them.`)
  editing.value = undefined
  await Promise.all([load(), vocabulary.load(), follow()])
}

/** Asks first: a list that is removed is gone. */
function drop(l: List) {
  confirm.require({
    header: `Remove ${l.name}?`,
    message: 'It cannot be brought back but by putting its table in again; save the table first if you may want it.',
    acceptLabel: 'Remove it',
    rejectProps: { label: 'Keep it', severity: 'secondary', outlined: true },
    defaultFocus: 'reject',
    accept: async () => {
      const { ok } = await ask(api.DELETE('/api/lists/{name}', { params: { path: { name: l.name } } }))
      if (ok) said(`${l.name} is removed.`)
      await Promise.all([load(), vocabulary.load()])
    },
  })
}

const href = (n: string, format: string) => `/api/lists/${encodeURIComponent(n)}/${format}`
</script>

<template>
  <PageFrame
    title="Species lists"
    hint="The trees of one tract and how common each is there; trees can be ranked among them instead of a whole region's"
  >
    <WeighingAgain :weighing="weighing" which="the trees that are ranked among a changed list" />
    <ul class="panel rows" aria-label="Lists to rank among">
      <li v-for="l in lists" :key="l.name">
        <strong>{{ l.name }}</strong>
        <span class="soft"
          >{{ Object.keys(l.taxa).length }} trees, by the names of {{ vocabulary.say(vocabulary.words?.regions, l.region) }}</span
        >
        <span class="files"
          ><a class="press" :href="href(l.name, 'csv')">CSV</a> <a class="press" :href="href(l.name, 'yaml')">YAML</a>
          <template v-if="session.may('lead')"
            ><button class="press" @click="editing = { list: l }">Change</button>
            <button class="press quiet" @click="drop(l)">Remove</button></template
          ></span
        >
      </li>
      <li v-for="r in vocabulary.words?.regions" :key="r.id">
        <strong>{{ capital(r.words) }}</strong> <span class="soft">the whole region, as the flora has it</span>
        <span class="files"><a class="press" :href="href(r.id, 'csv')">CSV</a> <a class="press" :href="href(r.id, 'yaml')">YAML</a></span>
      </li>
    </ul>
    <SaidWrong :lines="wrong" />
    <ListEdit v-if="editing" :key="editing.list?.name" :list="editing.list" @kept="kept" @leave="editing = undefined" />
    <p v-else-if="session.may('lead')"><button class="press lead" data-new-list @click="editing = {}">Make a list of your own</button></p>
  </PageFrame>
</template>

<style scoped>
.rows li {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 0.75rem;
  align-items: center;
  padding-block: 0.25rem;
  border-bottom: 1px solid var(--pt-line);
}

.rows li:last-child {
  border-bottom: 0;
}

.files {
  display: flex;
  flex-wrap: wrap;
  gap: 0.75rem;
  align-items: center;
  margin-left: auto;
}
</style>
