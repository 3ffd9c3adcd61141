<script setup lang="ts">
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import { computed } from 'vue'
import { capital, count } from '../frame/words'
import type { Preview } from '../api/client'

type Line = NonNullable<Preview['lines']>[number]

const props = defineProps<{ preview: Preview }>()
const chosen = defineModel<number[] | null>({ required: true })
const lines = computed(() => props.preview.lines ?? [])
const good = computed(() => lines.value.filter((l) => !l.known && !l.problems?.length))
/** Single lines can be left out where all of them are shown. */
const choosing = computed(() => props.preview.total <= lines.value.length)
const taken = computed(() => chosen.value ?? good.value.map((l) => l.line))
const take = (line: number) => {
  const others = taken.value.filter((n) => n !== line)
  chosen.value = others.length < taken.value.length ? others : [...others, line]
}
const rowClass = (l: Line) => (l.known ? 'known' : '')
</script>

<template>
  <p v-if="preview.wrong" id="import-wrong" class="wrong" role="alert">{{ preview.wrong }}</p>
  <p v-else role="status">
    <strong>{{ preview.good }}</strong> of {{ preview.total }} lines can go in.
    <span v-if="preview.known">{{ count(preview.known, 'is of a tree', 'are of trees') }} that the book has already, and passed over.</span>
    <span v-if="preview.bad" class="wrong"
      >{{ count(preview.bad, 'has problems', 'have problems') }} and stays out until the file, the columns or what is asked above is
      mended.</span
    >
  </p>
  <DataTable
    v-if="lines.length"
    :value="lines"
    data-key="line"
    size="small"
    scrollable
    scroll-height="24rem"
    :row-class="rowClass"
    class="lines"
  >
    <Column v-if="choosing" header="Take">
      <template #body="{ data: l }">
        <input
          v-if="good.includes(l)"
          type="checkbox"
          class="box"
          :checked="taken.includes(l.line)"
          :aria-label="`Take ${l.at}`"
          @change="take(l.line)"
        />
      </template>
    </Column>
    <Column field="at" header="Line" style="white-space: nowrap" />
    <Column field="tag" header="Tag" />
    <Column field="stand" header="Stand" />
    <Column header="Name" style="min-width: 14rem">
      <template #body="{ data: l }">
        <span v-for="p in l.problems" :key="p" class="wrong">{{ capital(p) }}. </span>
        <template v-if="!l.problems?.length">{{ l.known ? 'in the book already' : l.name }}</template>
      </template>
    </Column>
    <Column field="where" header="Position" />
    <Column header="Looks"
      ><template #body="{ data: l }">{{ l.looks || '' }}</template></Column
    >
  </DataTable>
  <p v-if="preview.total > lines.length" class="soft small">The first {{ lines.length }} lines are shown, those with problems first.</p>
</template>

<style scoped>
.lines {
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  overflow: hidden;
}

.box {
  width: 24px;
  height: 24px;
}

.lines :deep(.known) {
  color: var(--pt-soft);
}
</style>
