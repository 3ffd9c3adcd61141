<script setup lang="ts">
import { computed, ref } from 'vue'
import ImportPreview from './ImportPreview.vue'
import { api, problemLines, type Mapping, type Preview, type Schemas } from '../api/client'
import { useDesk } from '../stores/desk'
import { useFilter } from '../stores/filter'
import { useSession } from '../stores/session'
import { regionWord } from '../words'

const props = defineProps<{ fields: Schemas['Field'][] }>()
const emit = defineEmits<{ done: [] }>()
const desk = useDesk()
const filter = useFilter()
const session = useSession()
const preview = ref<Preview | null>(null)
const mapping = ref<Mapping>({ columns: [] })
const wrong = ref<string[]>([])
const busy = ref('')
const progress = ref<Schemas['Progress'] | null>(null)
const positions = ref(false) // trees that the book has get the file's positions
const chosen = ref<number[] | null>(null) // null: all good lines
const settable = computed(() => props.fields.filter((f) => !['leader', 'share', 'status'].includes(f.id)))
const columns = computed(() => preview.value?.columns ?? [])

async function read(e: Event) {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  wrong.value = []
  progress.value = null
  busy.value = `Reading ${file.name}…`
  try {
    const answer = await fetch(`/api/imports?name=${encodeURIComponent(file.name)}`, {
      method: 'POST', body: file, headers: { 'Content-Type': 'application/octet-stream' },
    })
    const body: unknown = await answer.json()
    if (answer.ok) {
      show(body as Preview)
      mapping.value.tract ||= filter.tract || filter.tracts[0]
      mapping.value.stand ||= filter.stand
      await look()
    } else wrong.value = problemLines(body as Schemas['ErrorModel'])
  } catch {
    wrong.value = ['No connection to the book; choose the file again when there is one.']
  }
  busy.value = ''
  input.value = ''
}

function show(p: Preview) {
  preview.value = p
  mapping.value = { ...p.mapping, columns: [...(p.mapping.columns ?? [])] }
  chosen.value = null
}

/** Asks what the file would put in as it is mapped now. */
async function look() {
  if (!preview.value) return
  const { data, error } = await api.POST('/api/imports/{id}/preview', { params: { path: { id: preview.value.id } }, body: mapping.value })
  wrong.value = error ? problemLines(error) : []
  if (data) show(data)
}

async function putIn() {
  if (!preview.value) return
  const id = preview.value.id
  const { data, error } = await api.POST('/api/imports/{id}', {
    params: { path: { id } }, body: { mapping: mapping.value, lines: chosen.value ?? undefined, positions: positions.value || undefined, by: session.name || undefined },
  })
  wrong.value = error ? problemLines(error) : []
  progress.value = data ?? null
  while (progress.value && !progress.value.ended) {
    await new Promise((wait) => setTimeout(wait, 250))
    const { data: now } = await api.GET('/api/imports/{id}', { params: { path: { id } } })
    if (!now) break
    progress.value = now
  }
  if (progress.value?.ended && !progress.value.wrong) preview.value = null
  await filter.load()
  emit('done')
}

async function leave() {
  if (preview.value) await api.DELETE('/api/imports/{id}', { params: { path: { id: preview.value.id } } })
  preview.value = null
  progress.value = null
}
</script>

<template>
  <label v-if="!preview" class="field">A table (CSV, XLSX), GPX, GeoJSON, field record or Darwin Core Archive; you see what it holds before anything goes in
    <input type="file" data-import accept=".csv,.txt,.tsv,.xlsx,.gpx,.geojson,.json,.zip" @change="read" />
  </label>
  <p v-if="busy" role="status">{{ busy }}</p>
  <p v-for="w in wrong" :key="w" class="wrong" role="alert">{{ w }}</p>
  <p v-if="progress?.ended && !progress.wrong" role="status"><strong>{{ progress.trees }} trees are in the book.</strong></p>
  <p v-if="progress?.wrong" class="wrong" role="alert">{{ progress.wrong }}</p>
  <p v-if="progress && !progress.ended" role="status">
    <progress :value="progress.done" :max="progress.total"></progress> {{ progress.done }} of {{ progress.total }}
    <button class="press" @click="leave">Stop</button>
  </p>
  <template v-if="preview && !(progress && !progress.ended)">
    <h3>{{ preview.name }}: what each column holds</h3>
    <div class="columns">
      <label v-for="(c, i) in columns" :key="i" class="field"><span>{{ c || `column ${i + 1}` }}</span>
        <select v-model="mapping.columns![i]" :data-column="c" @change="look">
          <option value="">leave out</option>
          <option v-for="f in settable" :key="f.id" :value="f.id">{{ f.words }}</option>
        </select>
      </label>
    </div>
    <h3>Where a line does not say</h3>
    <div class="columns">
      <label class="field">Tract <input v-model="mapping.tract" data-default="tract" maxlength="80" @change="look" /></label>
      <label class="field">Stand <input v-model="mapping.stand" data-default="stand" maxlength="80" @change="look" /></label>
      <label class="field">Day <input v-model="mapping.date" type="date" @change="look" /></label>
      <label class="field">It could be any tree of <select v-model="mapping.region" @change="look"><option v-for="p in desk.desk?.pools" :key="p" :value="p">{{ regionWord(p) }}</option></select></label>
    </div>
    <ImportPreview v-model="chosen" :preview="preview" />
    <label v-if="preview.placed" class="take"><input v-model="positions" type="checkbox" data-positions /> Give the {{ preview.placed }} trees that the book has this file's positions</label>
    <span class="go"><button class="press lead" data-put-in :disabled="!(chosen ? chosen.length : preview.good) && !(positions && preview.placed)" @click="putIn">Put {{ chosen ? chosen.length : preview.good }} trees into the book</button>
      <button class="press quiet" @click="leave">Leave it</button></span>
  </template>
</template>

<style scoped>
h3 {
  font-size: 1rem;
}

.columns {
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
</style>
