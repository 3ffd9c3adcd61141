<script setup lang="ts">
import { computed } from 'vue'
import type { Preview } from '../api/client'

const props = defineProps<{ preview: Preview }>()
const chosen = defineModel<number[] | null>({ required: true })
const lines = computed(() => props.preview.lines ?? [])

/** Choosing one line leaves the rest of the shown ones as they are. */
function toggle(line: number) {
  const all = chosen.value ?? lines.value.filter((l) => !l.known && !l.problems?.length).map((l) => l.line)
  chosen.value = all.includes(line) ? all.filter((l) => l !== line) : [...all, line]
}
const taken = (line: number) => (chosen.value ? chosen.value.includes(line) : true)
</script>

<template>
  <p v-if="preview.wrong" class="wrong" role="alert">{{ preview.wrong }}</p>
  <p v-else role="status">
    <strong>{{ preview.good }}</strong> of {{ preview.total }} lines can go in.
    <span v-if="preview.known">{{ preview.known }} are of trees that the book has already and are passed over.</span>
    <span v-if="preview.bad" class="wrong">{{ preview.bad }} have problems; they stay out until the file or the columns are mended.</span>
  </p>
  <div v-if="lines.length" class="scroll">
    <table>
      <thead><tr class="small soft"><th scope="col">Take</th><th scope="col">Line</th><th scope="col">Tag</th><th scope="col">Stand</th><th scope="col">Name</th><th scope="col">Position</th><th scope="col">Looks</th></tr></thead>
      <tbody>
        <tr v-for="l in lines" :key="l.line" :class="{ bad: l.problems?.length, known: l.known }">
          <td>
<input v-if="!l.known && !l.problems?.length && preview.total <= lines.length" type="checkbox" :checked="taken(l.line)" :aria-label="`Take ${l.at}`" @change="toggle(l.line)" />
            <span v-else aria-hidden="true">{{ l.known || l.problems?.length ? '–' : '✓' }}</span>
</td>
          <td>{{ l.at }}</td>
          <td>{{ l.tag }}</td>
          <td>{{ l.stand }}</td>
          <td><template v-if="l.problems?.length"><span v-for="p in l.problems" :key="p" class="wrong">{{ p }}. </span></template><template v-else-if="l.known">in the book already</template><template v-else>{{ l.name }}</template></td>
          <td class="small">{{ l.where }}</td>
          <td>{{ l.looks || '' }}</td>
        </tr>
      </tbody>
    </table>
  </div>
  <p v-if="preview.total > lines.length" class="soft small">The first {{ lines.length }} lines are shown, those with problems first.</p>
</template>

<style scoped>
.scroll {
  max-height: 24rem;
  overflow: auto;
  border: 1px solid var(--pt-line);
  border-radius: 8px;
}

table {
  width: 100%;
  border-collapse: collapse;
}

th,
td {
  padding: 0.25rem 0.5rem;
  text-align: left;
  border-top: 1px solid var(--pt-line);
}

.known {
  color: var(--pt-soft);
}

input {
  width: 24px;
  height: 24px;
}
</style>
