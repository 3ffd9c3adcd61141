<script setup lang="ts">
import { onMounted, ref } from 'vue'
import PageFrame from '../components/PageFrame.vue'
import { api, problemLines, type List } from '../api/client'
import { useDesk } from '../stores/desk'
import { regionWord } from '../words'

const desk = useDesk()
const lists = ref<List[]>([])
const name = ref('')
const region = ref('eastern-north-america')
const table = ref('')
const wrong = ref<string[]>([])
const kept = ref('')

async function load() {
  try {
    const { data } = await api.GET('/api/lists')
    lists.value = data ?? []
  } catch {
    wrong.value = ['No connection to the book.']
  }
}
onMounted(load)

async function keep() {
  wrong.value = []
  kept.value = ''
  try {
    const { data, error } = await api.PUT('/api/lists', { body: { name: name.value.trim(), region: region.value, table: table.value } })
    if (!data) {
      wrong.value = problemLines(error)
      return
    }
    kept.value = `Kept: ${data.name}, ${Object.keys(data.taxa).length} trees. New trees can be ranked among them.`
    table.value = ''
    await Promise.all([load(), desk.load()])
  } catch {
    wrong.value = ['No connection to the book. What you typed is still here; try again.']
  }
}

async function drop(l: List) {
  wrong.value = []
  kept.value = ''
  const { error } = await api.DELETE('/api/lists/{name}', { params: { path: { name: l.name } } })
  if (error) wrong.value = problemLines(error)
  else kept.value = `${l.name} is removed.`
  await Promise.all([load(), desk.load()])
}

async function choose(e: Event) {
  const file = (e.target as HTMLInputElement).files?.[0]
  if (file) table.value = await file.text()
}
const href = (n: string, format: string) => `/api/lists/${encodeURIComponent(n)}/${format}`
</script>

<template>
  <PageFrame title="Lists" hint="The trees of one tract and how common each is there; trees can be ranked among them instead of a whole region's">
    <ul class="panel rows" aria-label="Lists to rank among">
      <li v-for="l in lists" :key="l.name">
        <strong>{{ l.name }}</strong> <span class="soft">{{ Object.keys(l.taxa).length }} trees, by the names of {{ regionWord(l.region) }}</span>
        <span class="files"><a :href="href(l.name, 'csv')">CSV</a> <a :href="href(l.name, 'yaml')">YAML</a>
          <button class="press quiet" @click="drop(l)">Remove</button></span>
      </li>
      <li v-for="r in desk.desk?.regions" :key="r">
        <strong>{{ regionWord(r) }}</strong> <span class="soft">the whole region, as the flora has it</span>
        <span class="files"><a :href="href(r, 'csv')">CSV</a> <a :href="href(r, 'yaml')">YAML</a></span>
      </li>
    </ul>
    <form class="panel form" @submit.prevent="keep">
      <h2>A list of your own</h2>
      <p class="soft">Take a region's table, strike out what does not grow on your land, mend how common the rest is (abundant, common, occasional, rare), and put it back here. A list of the same name is replaced.</p>
      <div class="two">
        <label class="field"><span>Name</span><input id="list-name" v-model="name" required maxlength="80" /></label>
        <label class="field"><span>Names of</span>
          <select v-model="region"><option v-for="r in desk.desk?.regions" :key="r" :value="r">{{ regionWord(r) }}</option></select>
        </label>
      </div>
      <label class="field"><span>From a file (CSV or YAML)</span><input type="file" accept=".csv,.yaml,.yml,text/csv" @change="choose" /></label>
      <label class="field"><span>Or typed: taxon, abundance</span>
        <textarea id="list-table" v-model="table" rows="6" required placeholder="taxon,abundance&#10;Acer saccharum,abundant&#10;Fraxinus nigra,rare"></textarea>
      </label>
      <ul v-if="wrong.length" class="wrong" role="alert"><li v-for="w in wrong" :key="w">{{ w }}</li></ul>
      <p v-if="kept" role="status">{{ kept }}</p>
      <button class="press lead" type="submit">Keep the list</button>
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
