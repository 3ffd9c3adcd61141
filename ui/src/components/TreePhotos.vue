<script setup lang="ts">
import { ulid } from 'ulid'
import { ref, watch } from 'vue'
import { api, problemLines, type Schemas } from '../api/client'
import { useSession } from '../stores/session'
import { dayWords } from '../words'

const props = defineProps<{ tree: string; looks: { id: string; words: string }[] }>()
const session = useSession()
const photos = ref<Schemas['Photo'][]>([])
const look = ref('')
const readPlace = ref(false)
const busy = ref('')
const wrong = ref<string[]>([])

async function load() {
  const { data } = await api.GET('/api/trees/{id}/photos', { params: { path: { id: props.tree } } })
  photos.value = data ?? []
}
watch(() => props.tree, load, { immediate: true })

async function add(e: Event) {
  const input = e.target as HTMLInputElement
  wrong.value = []
  for (const file of input.files ?? []) {
    busy.value = file.name
    const query = new URLSearchParams({ photo: ulid(), look: look.value, caption: '', by: session.name, read_place: String(readPlace.value) })
    try {
      const answer = await fetch(`/api/trees/${props.tree}/photos?${query}`, {
        method: 'POST', body: file, headers: { 'Content-Type': 'application/octet-stream' },
      })
      if (!answer.ok) wrong.value.push(`${file.name}: ${problemLines(await answer.json()).join(' ')}`)
    } catch {
      wrong.value.push(`${file.name}: no connection to the book; choose it again when there is one.`)
    }
  }
  busy.value = ''
  input.value = ''
  await load()
}

async function takeBack(id: string) {
  await api.PUT('/api/photos/{id}', { params: { path: { id } }, body: { gone: true } })
  await load()
}
const of = (id: string) => props.looks.find((l) => l.id === id)?.words ?? 'The tree at large'
</script>

<template>
  <details class="panel" aria-label="Photographs" :open="photos.length > 0">
    <summary class="press quiet">Photographs <span class="soft">{{ photos.length || 'none yet' }}</span></summary>
    <ul v-if="photos.length">
      <li v-for="p in photos" :key="p.id">
        <a :href="`/api/photos/${p.id}/full`" target="_blank"><img :src="`/api/photos/${p.id}/thumb`" :alt="p.caption || of(p.look)" loading="lazy" /></a>
        <span class="small">{{ p.caption || of(p.look) }}</span>
        <span class="small soft">{{ [p.taken && dayWords(p.taken.slice(0, 10)), p.by].filter(Boolean).join(' · ') }}</span>
        <button class="press quiet" @click="takeBack(p.id)">Take back</button>
      </li>
    </ul>
    <div class="add">
      <label class="field">Of <select v-model="look"><option value="">the tree at large</option><option v-for="l in looks" :key="l.id" :value="l.id">{{ l.words }}</option></select></label>
      <label class="check"><input v-model="readPlace" type="checkbox" /> Read the day and the place from the file</label>
      <label class="field">JPEG or PNG, up to 20 MB <input type="file" accept="image/jpeg,image/png" multiple data-photo @change="add" /></label>
    </div>
    <p v-if="busy" role="status">Sending {{ busy }}…</p>
    <p v-for="w in wrong" :key="w" class="wrong" role="alert">{{ w }}</p>
    <p class="small soft">The file is kept as it is, with whatever the camera wrote into it; it lies beside the book and goes into every backup.</p>
  </details>
</template>

<style scoped>
details[open] > :not(summary) {
  margin-top: 0.5rem;
}

summary {
  width: fit-content;
  border-color: transparent;
  padding: 0.75rem 0;
  font-weight: 600;
}

li {
  display: grid;
}

ul {
  display: flex;
  flex-wrap: wrap;
  gap: 0.75rem;
}

li {
  width: 11rem;
  gap: 0.125rem;
}

img {
  width: 100%;
  height: 8rem;
  object-fit: cover;
  border-radius: 8px;
  border: 1px solid var(--pt-line);
}

.add {
  display: flex;
  flex-wrap: wrap;
  gap: 0.75rem;
  align-items: end;
}

.check {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  min-height: var(--pt-press);
}

.check input {
  width: 24px;
  height: 24px;
}
</style>
