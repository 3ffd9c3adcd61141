<script setup lang="ts">
import { ulid } from 'ulid'
import { ref, watch } from 'vue'
import FileUpload, { type FileUploadUploaderEvent } from 'primevue/fileupload'
import { api, sending, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { useSession } from '../frame/session'
import { dayWords } from '../frame/words'

const props = defineProps<{ tree: string; looks: { id: string; words: string }[] }>()
const session = useSession()
const photos = ref<Schemas['Photo'][]>([])
const look = ref('')
const readPosition = ref(false)
const upload = ref<{ clear: () => void } | null>(null)
const part = ref(0) // of the file being sent
const name = ref('')
const refused = ref<string[]>([])
const { ask } = useAsk()
const sent = useAsk({ typed: true })

async function load() {
  const { data } = await ask(api.GET('/api/trees/{id}/photos', { params: { path: { id: props.tree } } }))
  if (data) photos.value = data
}
watch(() => props.tree, load, { immediate: true })

/** Sends the files one after another; one that is refused does not keep the others. */
async function add(e: FileUploadUploaderEvent) {
  refused.value = []
  for (const file of e.files as File[]) {
    name.value = file.name
    part.value = 0
    const query = { photo: ulid(), look: look.value || undefined, by: session.name || undefined, read_position: readPosition.value }
    const { ok } = await sent.ask(
      api.POST('/api/trees/{id}/photos', { params: { path: { id: props.tree }, query }, ...sending(file, (p) => (part.value = p)) }),
    )
    if (!ok) refused.value.push(...sent.wrong.value.map((w) => `${file.name}: ${w}`))
  }
  name.value = ''
  upload.value?.clear()
  await load()
}

async function takeBack(id: string) {
  await ask(api.PUT('/api/photos/{id}', { params: { path: { id } }, body: { gone: true } }))
  await load()
}
const of = (id: string) => props.looks.find((l) => l.id === id)?.words ?? 'The tree at large'
</script>

<template>
  <details class="panel" aria-label="Photographs" :open="photos.length > 0">
    <summary class="press quiet">
      Photographs <span class="soft">{{ photos.length || 'none yet' }}</span>
    </summary>
    <ul v-if="photos.length">
      <li v-for="p in photos" :key="p.id">
        <a :href="`/api/photos/${p.id}/full`" target="_blank"
          ><img :src="`/api/photos/${p.id}/thumb`" :alt="p.caption || of(p.look)" loading="lazy"
        /></a>
        <span class="small">{{ p.caption || of(p.look) }}</span>
        <span class="small soft">{{ [p.taken && dayWords(p.taken.slice(0, 10)), p.by].filter(Boolean).join(' · ') }}</span>
        <RouterLink class="press" :to="`/trees/${tree}/photos/${p.id}`" data-measure-photo>Measure on it</RouterLink>
        <button v-if="session.may('observer')" class="press quiet" @click="takeBack(p.id)">Take back</button>
      </li>
    </ul>
    <div v-if="session.may('observer')" class="add">
      <label class="field"
        >Of
        <select v-model="look">
          <option value="">the tree at large</option>
          <option v-for="l in looks" :key="l.id" :value="l.id">{{ l.words }}</option>
        </select></label
      >
      <label class="check"><input v-model="readPosition" type="checkbox" /> Read the day and the position from the file</label>
      <FileUpload
        ref="upload"
        mode="basic"
        custom-upload
        auto
        multiple
        choose-label="JPEG or PNG, up to 20 MB"
        :pt="{ input: { 'data-photo': '', accept: 'image/*' } }"
        @uploader="add"
      />
    </div>
    <p v-if="name" role="status"><progress :value="part" max="1"></progress> Sending {{ name }}…</p>
    <SaidWrong :lines="refused" />
    <p class="small soft">
      The file is kept as it is, with whatever the camera wrote into it; it lies beside the book and goes into every backup.
    </p>
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
