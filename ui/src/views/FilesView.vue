<script setup lang="ts">
import { onMounted, ref } from 'vue'
import ImportFile from '../components/ImportFile.vue'
import PageFrame from '../components/PageFrame.vue'
import TreeFilter from '../components/TreeFilter.vue'
import { api, problemLines, type Formats, type Import } from '../api/client'
import { useFilter } from '../stores/filter'
import { useSession } from '../stores/session'
import { dayWords } from '../words'

const filter = useFilter()
const session = useSession()
const formats = ref<Formats | null>(null)
const imports = ref<Import[]>([])
const said = ref('')

async function load() {
  const [f, i] = await Promise.all([api.GET('/api/formats'), api.GET('/api/imports')])
  formats.value = f.data ?? null
  imports.value = i.data ?? []
}
onMounted(load)

async function undo(i: Import) {
  const { data, error } = await api.POST('/api/imports/{id}/undo', { params: { path: { id: i.id } } })
  said.value = data
    ? `${i.name}: ${data.aside} trees are set aside${data.back ? `, ${data.back} are as they were before` : ''}${data.stay ? `, ${data.stay} stay because they were added to since` : ''}. Reading the file again brings them back.`
    : problemLines(error).join(' ')
  await load()
}
</script>

<template>
  <PageFrame title="Files" hint="Trees out of the book and into it, in open formats">
    <section class="panel" aria-label="Write a file">
      <h2>Write a file</h2>
      <p class="soft small">Of the trees that fit:</p>
      <TreeFilter />
      <ul class="formats">
        <li v-for="f in formats?.formats" :key="f.id">
          <a class="press" :href="`/api/export/${f.id}?${filter.search}`" download :data-format="f.id">{{ f.name }}</a>
          <span class="small soft">Leaves out: {{ f.lost }}</span>
        </li>
      </ul>
    </section>
    <section v-if="session.may('lead')" class="panel" aria-label="Read a file">
      <h2>Read a file</h2>
      <ImportFile v-if="formats" :fields="formats.fields ?? []" @done="load" />
    </section>
    <section v-if="imports.length" class="panel" aria-label="Files read">
      <h2>Files read</h2>
      <p v-if="said" role="status">{{ said }}</p>
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

.formats a {
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
