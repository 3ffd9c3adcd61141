<script setup lang="ts">
import SaveFile from '../frame/SaveFile.vue'
import { useToast } from 'primevue/usetoast'
import { useLocalStorage } from '@vueuse/core'
import { computed, onMounted, ref } from 'vue'
import ImportFile from './ImportFile.vue'
import PageFrame from '../frame/PageFrame.vue'
import TreeFilter from '../trees/TreeFilter.vue'
import { api, type Formats, type Import } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { useFilter } from '../trees/filter'
import { useSession } from '../frame/session'
import { dayWords } from '../frame/words'

const filter = useFilter('files')
const session = useSession()
const formats = ref<Formats | null>(null)
const imports = ref<Import[]>([])
const toast = useToast()
const { wrong, ask } = useAsk()
const past = useAsk()
const undoing = useAsk()

/** How tables have positions, and what an archive says of its use. */
const how = useLocalStorage('palethicket.files', { grid: 'degrees', publisher: '', license: '', country: '' }, { mergeDefaults: true })
const licenses = [
  { at: 'https://creativecommons.org/publicdomain/zero/1.0/legalcode', words: 'CC0: for anything' },
  { at: 'https://creativecommons.org/licenses/by/4.0/legalcode', words: 'CC BY: with the author named' },
  { at: 'https://creativecommons.org/licenses/by-nc/4.0/legalcode', words: 'CC BY-NC: not for profit' },
]
const asked = computed(() => {
  const query = new URLSearchParams(filter.search)
  for (const [name, value] of Object.entries(how.value)) if (value && value !== 'degrees') query.set(name, value)
  return query
})

async function load() {
  const [f, i] = await Promise.all([ask(api.GET('/api/formats')), past.ask(api.GET('/api/imports'))])
  if (f.data) formats.value = f.data
  if (i.data) imports.value = i.data
}
onMounted(load)

async function undo(i: Import) {
  const { data } = await undoing.ask(api.POST('/api/imports/{id}/undo', { params: { path: { id: i.id } } }))
  if (data) {
    const back = data.back ? `, ${data.back} are as they were before` : ''
    const stay = data.stay ? `, ${data.stay} stay because they were added to since` : ''
    toast.add({
      severity: 'success',
      summary: `${i.name}: ${data.aside} trees are set aside${back}${stay}.`,
      detail: 'Reading the file again brings them back.',
      life: 12000,
    })
  }
  await load()
}
</script>

<template>
  <PageFrame title="Import and export" hint="Trees out of the book and into it, in open formats">
    <SaidWrong :lines="wrong" again @again="load" />
    <section class="panel" aria-label="Write a file">
      <h2>Write a file</h2>
      <p class="soft small">Of the trees that fit:</p>
      <TreeFilter page="files" />
      <div class="how">
        <label class="field"
          >Positions in tables
          <select v-model="how.grid">
            <option value="degrees">in degrees</option>
            <option value="utm">on the UTM grid</option>
          </select></label
        >
        <label class="field">Publisher of an archive <input v-model="how.publisher" maxlength="120" /></label>
        <label class="field"
          >License of an archive
          <select v-model="how.license">
            <option value="">not said</option>
            <option v-for="l in licenses" :key="l.at" :value="l.at">{{ l.words }}</option>
          </select></label
        >
        <label class="field">Country <input v-model="how.country" maxlength="80" /></label>
      </div>
      <ul class="formats">
        <li v-for="f in formats?.formats" :key="f.id">
          <SaveFile :href="`/api/export/${f.id}?${asked}`" :name="`trees.${f.extension}`" :data-format="f.id">{{ f.name }}</SaveFile>
          <span class="small soft">Leaves out: {{ f.lost.charAt(0).toLowerCase() + f.lost.slice(1) }}</span>
        </li>
        <li>
          <SaveFile :href="`/api/export/boundaries?${asked}`" name="boundaries.geojson" data-format="boundaries"
            >Boundaries (GeoJSON)</SaveFile
          >
          <span class="small soft">Of the tracts and stands, without trees.</span>
        </li>
      </ul>
    </section>
    <section v-if="session.may('lead')" class="panel" aria-label="Read a file">
      <h2>Read a file</h2>
      <ImportFile v-if="formats" :fields="formats.fields ?? []" @done="load" />
    </section>
    <section v-if="imports.length" class="panel" aria-label="Files read">
      <h2>Files read</h2>
      <SaidWrong :lines="undoing.wrong.value" />
      <ul>
        <li v-for="i in imports" :key="i.id" class="past">
          <strong>{{ i.name }}</strong> <span>{{ i.trees }} trees</span>
          <span class="soft small">{{ dayWords(i.at) }} {{ i.by }}</span>
          <span v-if="i.undone" class="soft">undone</span>
          <button v-else-if="session.may('lead')" class="press" data-undo-import @click="undo(i)">Undo</button>
        </li>
      </ul>
    </section>
  </PageFrame>
</template>

<style scoped>
section {
  display: grid;
  gap: 0.75rem;
}

h2 {
  font-size: 1.125rem;
}

.how {
  display: flex;
  flex-wrap: wrap;
  gap: 0.75rem;
}

.formats {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(20rem, 100%), 1fr));
  gap: 0.75rem;
}

.formats li {
  display: grid;
  gap: 0.25rem;
  align-content: start;
}

.formats :deep(.press) {
  font-weight: 600;
}

.past {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 1rem;
  align-items: center;
  min-height: var(--pt-press);
}
</style>
