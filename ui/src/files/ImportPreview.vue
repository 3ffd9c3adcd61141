<script setup lang="ts">
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import Dialog from 'primevue/dialog'
import { computed, ref } from 'vue'
import { capital, count } from '../frame/words'
import type { Preview } from '../api/client'

type Line = NonNullable<Preview['lines']>[number]

const props = defineProps<{ preview: Preview }>()
const emit = defineEmits<{ far: [meant: boolean]; mend: [line: number, cells: Record<string, string>] }>()
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
/** The line that is being mended, and what its cells say so far. */
const mending = ref<Line | null>(null)
const cells = ref<string[]>([])
function begin(l: Line) {
  mending.value = l
  cells.value = [...(l.cells ?? [])]
}
function keep() {
  const l = mending.value
  if (!l) return
  const changed = cells.value.map((c, i) => [String(i), c] as const).filter(([i, c]) => c !== l.cells?.[Number(i)])
  mending.value = null
  if (changed.length) emit('mend', l.line, Object.fromEntries(changed))
}
/** The lines of a fault: the first by name. */
function where(f: NonNullable<Preview['faults']>[number]) {
  const more = f.lines - (f.at?.length ?? 0)
  return (f.at ?? []).join(', ') + (more ? ` and ${more} more` : '')
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
  <div v-if="preview.faults?.length" data-faults>
    <ul>
      <li v-for="f in preview.faults" :key="f.says" class="wrong">
        {{ capital(f.says) }} <span class="soft">({{ where(f) }})</span>
      </li>
    </ul>
  </div>
  <div v-if="preview.fresh?.length" class="hint" role="status" data-fresh>
    These lines make new stands. If one is a slip, mend the file and choose it again.
    <ul>
      <li v-for="f in preview.fresh" :key="f.tract + f.stand">
        <strong>{{ f.stand }}</strong>, {{ f.tract }}: {{ count(f.lines, 'line')
        }}<template v-if="f.near">. Do you mean {{ f.near }}?</template>
      </li>
    </ul>
  </div>
  <p v-if="preview.far" class="hint" role="status">
    <label
      ><input type="checkbox" class="box" data-far :checked="preview.mapping.far" @change="emit('far', !preview.mapping.far)" />
      {{ count(preview.far, 'line is', 'lines are') }} far from the other trees of the tract. They do stand there.</label
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
        <button v-if="l.problems?.length" type="button" class="press" :data-mend="l.line" :aria-label="`Mend ${l.at}`" @click="begin(l)">
          Mend
        </button>
        <template v-if="!l.problems?.length">{{ l.known ? 'in the book already' : l.name }}</template>
      </template>
    </Column>
    <Column field="where" header="Position" />
    <Column header="Looks"
      ><template #body="{ data: l }">{{ l.looks || '' }}</template></Column
    >
  </DataTable>
  <Dialog :visible="!!mending" modal :header="`Mend ${mending?.at ?? ''}`" @update:visible="mending = null">
    <form class="mend" @submit.prevent="keep">
      <p v-for="p in mending?.problems" :key="p" class="wrong">{{ capital(p) }}</p>
      <label v-for="(c, i) in preview.columns" :key="i" class="field"
        >{{ c || `column ${i + 1}` }} <input v-model="cells[i]" :data-cell="c"
      /></label>
      <span><button class="press lead" type="submit">Keep</button></span>
      <p class="soft small">The file itself stays as it is.</p>
    </form>
  </Dialog>
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

.mend {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(14rem, 100%), 1fr));
  gap: 0.5rem 0.75rem;
  width: min(44rem, 80vw);
}

.mend > :not(label) {
  grid-column: 1 / -1;
}

.lines :deep(.known) {
  color: var(--pt-soft);
}
</style>
