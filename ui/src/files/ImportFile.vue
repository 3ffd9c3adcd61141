<script setup lang="ts">
import FileUpload, { type FileUploadUploaderEvent } from 'primevue/fileupload'
import { computed, nextTick, ref } from 'vue'
import ImportNames from './ImportNames.vue'
import ImportPreview from './ImportPreview.vue'
import { api, sending, type Mapping, type Preview, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { amongKey, amongOf, useVocabulary } from '../frame/vocabulary'
import { useFilter } from '../trees/filter'
import { useStands } from '../trees/stands'
import { useSession } from '../frame/session'
import { count } from '../frame/words'

defineProps<{ fields: Schemas['Field'][] }>()
const emit = defineEmits<{ done: [] }>()
const vocabulary = useVocabulary()
const filter = useFilter('files')
const stands = useStands()
const session = useSession()
const preview = ref<Preview | null>(null)
const mapping = ref<Mapping>({ columns: [] })
const name = ref('') // of the file being read
const part = ref(0) // of it sent so far
const progress = ref<Schemas['Progress'] | null>(null)
const positions = ref(false) // trees that the book has get the file's positions
const chosen = ref<number[] | null>(null) // null: all good lines
/** Fields whose column is in some unit. */
const lengths: Record<string, string> = { dbh_cm: 'cm', dbh_in: 'in', height_m: 'm', height_ft: 'ft' }
const asks = (what: string) => preview.value?.asks?.includes(what) ?? false
const columns = computed(() => preview.value?.columns ?? [])
const { wrong, ask } = useAsk({ typed: true })
const among = computed({
  get: () =>
    amongKey(
      mapping.value.region
        ? { region: mapping.value.region, list: mapping.value.list }
        : { region: vocabulary.words?.regions?.[0]?.id ?? '' },
    ),
  set: (key) => Object.assign(mapping.value, { list: undefined }, amongOf(key)),
})
const howMany = computed(() => (chosen.value ? chosen.value.length : (preview.value?.good ?? 0)))

async function read(e: FileUploadUploaderEvent) {
  const file = (e.files as File[])[0]
  if (!file) return
  progress.value = null
  name.value = file.name
  part.value = 0
  const { data } = await ask(
    api.POST('/api/imports', { params: { query: { name: file.name } }, ...sending(file, (p) => (part.value = p)) }),
  )
  name.value = ''
  if (!data) return
  show(data)
  mapping.value.tract ||= filter.tract || stands.tracts[0]
  mapping.value.stand ||= filter.stand
  await look()
  const first = preview.value?.asks?.[0]
  if (first) void nextTick(() => document.querySelector<HTMLElement>(`[data-default="${first}"]`)?.focus())
}

function show(p: Preview) {
  preview.value = p
  const columns = [...(p.mapping.columns ?? [])]
  mapping.value = {
    ...p.mapping,
    days: p.mapping.days ?? '',
    columns,
    units: columns.map((_, i) => p.mapping.units?.[i] ?? ''),
    lists: { ...Object.fromEntries((p.lacks ?? []).map((l) => [l.list, ''])), ...p.mapping.lists },
  }
  chosen.value = null
}

/** Asks what the file would put in as it is mapped now. */
async function look() {
  if (!preview.value) return
  const { data } = await ask(api.POST('/api/imports/{id}/preview', { params: { path: { id: preview.value.id } }, body: mapping.value }))
  if (data) show(data)
}

/** Cells of a line that were mended in the page, by their columns. */
function mend(line: number, cells: Record<string, string>) {
  mapping.value.mends = { ...mapping.value.mends, [line]: { ...mapping.value.mends?.[line], ...cells } }
  void look()
}

/** Trees far from the others are left out until it is said that they are meant. */
function sayFar(meant: boolean) {
  mapping.value.far = meant || undefined
  void look()
}

/** What a name in the file stands for is said once, and remembered when the file goes in. */
function say(written: string, is: Schemas['Meant']) {
  mapping.value.names = { ...mapping.value.names, [written]: is }
  void look()
}
const ownLists = computed(() => (vocabulary.words?.amongs ?? []).filter((a) => a.list))

async function putIn() {
  if (!preview.value) return
  const path = { id: preview.value.id }
  const body = {
    mapping: mapping.value,
    lines: chosen.value ?? undefined,
    positions: positions.value || undefined,
    by: session.name || undefined,
  }
  progress.value = (await ask(api.POST('/api/imports/{id}', { params: { path }, body }))).data ?? null
  while (progress.value && !progress.value.ended) {
    await new Promise((wait) => setTimeout(wait, 250))
    const { data } = await ask(api.GET('/api/imports/{id}', { params: { path } }))
    if (!data) break
    progress.value = data
  }
  if (progress.value?.ended && !progress.value.wrong) preview.value = null
  await stands.load()
  emit('done')
}

async function leave() {
  if (preview.value) await ask(api.DELETE('/api/imports/{id}', { params: { path: { id: preview.value.id } } }))
  preview.value = null
  progress.value = null
}
</script>

<template>
  <FileUpload
    v-if="!preview"
    custom-upload
    auto
    :show-upload-button="false"
    :show-cancel-button="false"
    choose-label="Choose a file"
    :pt="{ input: { 'data-import': '', accept: '.csv,.txt,.tsv,.xlsx,.gpx,.geojson,.json,.zip,.gpkg,.kml,.kmz' } }"
    @uploader="read"
  >
    <template #content>
      <p>
        Or drop one here: a table (CSV, XLSX), GeoPackage, GeoJSON, KML, GPX, field record or Darwin Core Archive. You see what it holds
        before anything goes in.
      </p>
    </template>
  </FileUpload>
  <p v-if="name" role="status"><progress :value="part" max="1"></progress> Reading {{ name }}…</p>
  <SaidWrong :lines="wrong" />
  <p v-if="progress?.ended && !progress.wrong" role="status">
    <strong>{{ count(progress.trees, 'tree is', 'trees are') }} in the book now.</strong>
  </p>
  <p v-if="progress?.wrong" class="wrong" role="alert">{{ progress.wrong }}</p>
  <p v-if="progress && !progress.ended" role="status">
    <progress :value="progress.done" :max="progress.total"></progress> {{ progress.done }} of {{ progress.total }}
    <button class="press" @click="leave">Stop</button>
  </p>
  <template v-if="preview && !(progress && !progress.ended)">
    <h3>{{ preview.name }}: what each column holds</h3>
    <div class="columns">
      <label v-for="(c, i) in columns" :key="i" class="field"
        ><span>{{ c || `column ${i + 1}` }}</span>
        <span class="soft small sample">{{ preview.samples?.[i]?.join(', ') || 'empty' }}</span>
        <select v-model="mapping.columns![i]" :data-column="c" @change="look">
          <option value="">leave out</option>
          <option v-for="f in fields" :key="f.id" :value="f.id">{{ f.words }}</option>
        </select>
        <select
          v-if="lengths[mapping.columns?.[i] ?? '']"
          v-model="mapping.units![i]"
          :aria-label="`Unit of ${c || `column ${i + 1}`}`"
          :data-unit="c"
          :data-default="preview.unitless?.includes(i) ? 'units' : undefined"
          :aria-invalid="preview.unitless?.includes(i)"
          aria-describedby="import-wrong"
          @change="look"
        >
          <option value="">{{ preview.unitless?.includes(i) ? 'say the unit' : `in ${lengths[mapping.columns?.[i] ?? '']}` }}</option>
          <option v-for="u in vocabulary.words?.units" :key="u" :value="u">in {{ u }}</option>
        </select>
      </label>
    </div>
    <h3>Where a line does not say</h3>
    <div class="columns">
      <label class="field"
        >Tract
        <input
          v-model="mapping.tract"
          data-default="tract"
          maxlength="80"
          list="known-tracts"
          :aria-invalid="asks('tract')"
          aria-describedby="import-wrong"
          @change="look"
      /></label>
      <datalist id="known-tracts"><option v-for="t in stands.tracts" :key="t" :value="t" /></datalist>
      <label class="field"
        >Stand
        <input
          v-model="mapping.stand"
          data-default="stand"
          maxlength="80"
          :aria-invalid="asks('stand')"
          aria-describedby="import-wrong"
          @change="look"
      /></label>
      <label class="field">Day <input v-model="mapping.date" type="date" @change="look" /></label>
      <label v-if="asks('zone') || mapping.zone" class="field"
        >UTM zone
        <input
          v-model="mapping.zone"
          data-default="zone"
          maxlength="10"
          placeholder="15N"
          :aria-invalid="asks('zone')"
          aria-describedby="import-wrong"
          @change="look"
      /></label>
      <label v-if="asks('days') || mapping.days" class="field"
        >Days such as 3/4/2026
        <select v-model="mapping.days" data-default="days" :aria-invalid="asks('days')" aria-describedby="import-wrong" @change="look">
          <option value="">say which comes first</option>
          <option value="day-first">the 3rd of April: day first</option>
          <option value="month-first">March 4th: month first</option>
        </select></label
      >
      <label class="field"
        >It could be any tree of
        <select v-model="among" @change="look">
          <option v-for="a in vocabulary.words?.amongs" :key="amongKey(a)" :value="amongKey(a)">{{ a.words }}</option>
        </select></label
      >
    </div>
    <p v-for="l in preview.lacks" :key="l.list" class="hint lack">
      <label
        >{{ count(l.lines, 'tree is', 'trees are') }} ranked among the list {{ l.list }} in the file, and this book has no such list. Rank
        {{ l.lines === 1 ? 'it' : 'them' }} among
        <select v-model="mapping.lists![l.list]" :data-list="l.list" @change="look">
          <option value="">the whole region</option>
          <option v-for="a in ownLists" :key="a.list" :value="a.list">{{ a.words }}</option>
        </select></label
      >
      To keep the list, leave this, put its table in under <RouterLink to="/lists">Lists</RouterLink>, and read the file again.
    </p>
    <ImportNames v-if="preview.doubts?.length" :doubts="preview.doubts" @say="say" />
    <ImportPreview v-model="chosen" :preview="preview" @far="sayFar" @mend="mend" />
    <label v-if="preview.placed" class="take"
      ><input v-model="positions" type="checkbox" data-positions /> Give the {{ preview.placed }} trees that the book has this file's
      positions</label
    >
    <span class="go"
      ><button class="press lead" data-put-in :disabled="!!preview.wrong || (!howMany && !(positions && preview.placed))" @click="putIn">
        Put {{ count(howMany, 'tree') }} into the book
      </button>
      <button class="press quiet" @click="leave">Leave it</button></span
    >
  </template>
</template>

<style scoped>
h3 {
  font-size: 1rem;
}

.columns {
  align-items: start;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(11rem, 1fr));
  gap: 0.5rem 0.75rem;
}

.take {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  min-height: var(--pt-press);
}

.take input {
  width: 24px;
  height: 24px;
}

.go {
  display: flex;
  gap: 0.5rem;
}

progress {
  width: min(20rem, 50vw);
  accent-color: var(--pt-spruce);
}
.sample {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
