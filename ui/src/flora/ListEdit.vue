<script setup lang="ts">
import FileUpload, { type FileUploadSelectEvent } from 'primevue/fileupload'
import { computed, ref } from 'vue'
import TaxonPicker from './TaxonPicker.vue'
import { api, type List } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { useVocabulary } from '../frame/vocabulary'
import { capital, count } from '../frame/words'

/** A list of one's own: picked name by name, taken over from a region, or read from a file. */
const props = defineProps<{ list?: List }>()
const emit = defineEmits<{ kept: [list: List]; leave: [] }>()
const vocabulary = useVocabulary()
const abundances = ['abundant', 'common', 'occasional', 'rare'] as const
const name = ref(props.list?.name ?? '')
const region = ref(props.list?.region ?? vocabulary.words?.regions?.[0]?.id ?? '')
const taxa = ref<[taxon: string, abundance: string][]>(Object.entries(props.list?.taxa ?? {}))
const table = ref('') // of a file, as it is
const { wrong, busy, ask } = useAsk({ typed: true })

const english = (taxon: string) => vocabulary.taxa.find((t) => t.name === taxon)?.words ?? taxon
const rows = computed(() => [...taxa.value].sort(([a], [b]) => english(a).localeCompare(english(b))))
const picked = computed(() => taxa.value.map(([t]) => t))

const pick = (taxon: string) => (taxa.value = [...taxa.value.filter(([t]) => t !== taxon), [taxon, 'common']])
const drop = (taxon: string) => (taxa.value = taxa.value.filter(([t]) => t !== taxon))
const set = (taxon: string, e: Event) =>
  (taxa.value = taxa.value.map((row) => (row[0] === taxon ? [taxon, (e.target as HTMLSelectElement).value] : row)))

/** Takes over a region's trees, to strike out what does not grow here. */
async function takeRegion() {
  const { data } = await ask(api.GET('/api/flora/taxa', { params: { query: { region: region.value } } }))
  if (data) taxa.value = data.map((t) => [t.name, t.common])
}

async function choose(e: FileUploadSelectEvent) {
  const file = (e.files as File[])[0]
  if (file) table.value = await file.text()
}

async function keep() {
  const own = ['taxon,abundance', ...taxa.value.map(([t, a]) => `${t},${a}`)].join('\n')
  const { data } = await ask(api.PUT('/api/lists', { body: { name: name.value.trim(), region: region.value, table: table.value || own } }))
  if (data) emit('kept', data)
}
</script>

<template>
  <form class="panel form" @submit.prevent="keep">
    <h2>{{ list ? `Change ${list.name}` : 'A list of your own' }}</h2>
    <p class="soft">The trees that grow on your land, and how common each is there. A list of the same name is replaced.</p>
    <div class="two">
      <label class="field"><span>Name</span><input id="list-name" v-model="name" required maxlength="80" /></label>
      <label class="field"
        ><span>Names of</span>
        <select v-model="region">
          <option v-for="r in vocabulary.words?.regions" :key="r.id" :value="r.id">{{ r.words }}</option>
        </select>
      </label>
    </div>
    <p v-if="table">The list is taken from the file. <button type="button" class="press" @click="table = ''">Pick names instead</button></p>
    <template v-else>
      <TaxonPicker id="list-pick" label="Add a tree" :without="picked" @pick="pick" />
      <ul v-if="rows.length" class="rows" aria-label="Trees of the list">
        <li v-for="[taxon, abundance] in rows" :key="taxon">
          <span
            ><strong>{{ capital(english(taxon)) }}</strong> <span class="sci small">{{ taxon }}</span></span
          >
          <select class="press" :aria-label="`How common ${english(taxon)} is`" :value="abundance" @change="set(taxon, $event)">
            <option v-for="a in abundances" :key="a">{{ a }}</option>
          </select>
          <button type="button" class="press quiet" :aria-label="`Strike out ${english(taxon)}`" @click="drop(taxon)">Strike out</button>
        </li>
      </ul>
      <div class="from">
        <button v-if="!rows.length" type="button" class="press" data-take-region @click="takeRegion">
          Begin with all trees of the region and strike out
        </button>
        <FileUpload
          mode="basic"
          custom-upload
          auto
          choose-label="From a file (CSV or YAML)"
          :pt="{ input: { accept: '.csv,.yaml,.yml,text/csv' } }"
          @select="choose"
        />
      </div>
    </template>
    <SaidWrong :lines="wrong" />
    <span class="from"
      ><button class="press lead" type="submit" :disabled="busy || (!rows.length && !table)">
        Keep the list{{ rows.length && !table ? `: ${count(rows.length, 'tree')}` : '' }}
      </button>
      <button type="button" class="press quiet" @click="emit('leave')">Leave</button></span
    >
  </form>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.75rem;
}

h2 {
  font-size: 1.25rem;
}

.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.75rem;
}

.rows {
  max-height: 24rem;
  overflow-y: auto;
}

li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: 0.5rem;
  align-items: center;
  padding: 0.125rem 0.75rem;
}

.from {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

@media (max-width: 700px) {
  .two,
  li {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
