<script setup lang="ts">
import FileUpload, { type FileUploadSelectEvent } from 'primevue/fileupload'
import { useConfirm } from 'primevue/useconfirm'
import { useToast } from 'primevue/usetoast'
import { onMounted, ref } from 'vue'
import PageFrame from '../frame/PageFrame.vue'
import { api, type List, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { useVocabulary } from '../frame/vocabulary'
import { capital } from '../frame/words'

const vocabulary = useVocabulary()
const lists = ref<List[]>([])
const name = ref('')
const region = ref(vocabulary.words?.regions?.[0]?.id ?? '')
const table = ref('')
const confirm = useConfirm()
const toast = useToast()
const reading = useAsk()
const following = useAsk()
const { wrong, busy, ask } = useAsk({ typed: true })

async function load() {
  const { data } = await reading.ask(api.GET('/api/lists'))
  lists.value = data ?? []
}
onMounted(load)

/** How far the trees are weighed again that are ranked among a list which changed. */
const weighing = ref<Schemas['Weighing'] | null>(null)
async function follow() {
  const { data } = await following.ask(api.GET('/api/lists/weighing'))
  weighing.value = data ?? null
  if (data?.going) window.setTimeout(follow, 1000)
}
onMounted(follow)

const said = (summary: string) => toast.add({ severity: 'success', summary, life: 6000 })

async function keep() {
  const { data } = await ask(api.PUT('/api/lists', { body: { name: name.value.trim(), region: region.value, table: table.value } }))
  if (!data) return
  said(`Kept: ${data.name}, ${Object.keys(data.taxa).length} trees. New trees can be ranked among them.`)
  table.value = ''
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

async function choose(e: FileUploadSelectEvent) {
  const file = (e.files as File[])[0]
  if (file) table.value = await file.text()
}
const href = (n: string, format: string) => `/api/lists/${encodeURIComponent(n)}/${format}`
</script>

<template>
  <PageFrame
    title="Lists"
    hint="The trees of one tract and how common each is there; trees can be ranked among them instead of a whole region's"
  >
    <p v-if="weighing?.going" role="status" class="soft">
      Weighing the trees again that are ranked among a changed list: {{ weighing.done }} done, {{ weighing.left }} to go. Work can go on.
    </p>
    <p v-else-if="weighing?.wrong" role="alert" class="wrong">Weighing the trees again stopped: {{ weighing.wrong }}</p>
    <ul class="panel rows" aria-label="Lists to rank among">
      <li v-for="l in lists" :key="l.name">
        <strong>{{ l.name }}</strong>
        <span class="soft"
          >{{ Object.keys(l.taxa).length }} trees, by the names of {{ vocabulary.say(vocabulary.words?.regions, l.region) }}</span
        >
        <span class="files"
          ><a :href="href(l.name, 'csv')">CSV</a> <a :href="href(l.name, 'yaml')">YAML</a>
          <button class="press quiet" @click="drop(l)">Remove</button></span
        >
      </li>
      <li v-for="r in vocabulary.words?.regions" :key="r.id">
        <strong>{{ capital(r.words) }}</strong> <span class="soft">the whole region, as the flora has it</span>
        <span class="files"><a :href="href(r.id, 'csv')">CSV</a> <a :href="href(r.id, 'yaml')">YAML</a></span>
      </li>
    </ul>
    <form class="panel form" @submit.prevent="keep">
      <h2>A list of your own</h2>
      <p class="soft">
        Take a region's table, strike out what does not grow on your land, mend how common the rest is (abundant, common, occasional, rare),
        and put it back here. A list of the same name is replaced.
      </p>
      <div class="two">
        <label class="field"><span>Name</span><input id="list-name" v-model="name" required maxlength="80" /></label>
        <label class="field"
          ><span>Names of</span>
          <select v-model="region">
            <option v-for="r in vocabulary.words?.regions" :key="r.id" :value="r.id">{{ r.words }}</option>
          </select>
        </label>
      </div>
      <FileUpload
        mode="basic"
        custom-upload
        auto
        choose-label="From a file (CSV or YAML)"
        :pt="{ input: { accept: '.csv,.yaml,.yml,text/csv' } }"
        class="from-file"
        @select="choose"
      />
      <label class="field"
        ><span>Or typed: taxon, abundance</span>
        <textarea
          id="list-table"
          v-model="table"
          rows="6"
          required
          placeholder="taxon,abundance&#10;Acer saccharum,abundant&#10;Fraxinus nigra,rare"
        ></textarea>
      </label>
      <SaidWrong :lines="wrong" />
      <button class="press lead" type="submit" :disabled="busy">Keep the list</button>
    </form>
  </PageFrame>
</template>

<style scoped>
.rows li {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 0.75rem;
  align-items: center;
  min-height: var(--pt-press);
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

.form {
  display: grid;
  gap: 0.75rem;
  max-width: 44rem;
}

h2 {
  font-size: 1.0625rem;
}

.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.75rem;
}
</style>
