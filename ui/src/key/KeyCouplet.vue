<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import StateDrawing from '../plates/StateDrawing.vue'
import type { Lead, Mark } from './key'

/** One couplet: a lead is followed by pressing it. What else was seen is marked before, as several marks carry a slip. */
defineProps<{ couplet: Schemas['Couplet'] }>()
const emit = defineEmits<{ follow: [lead: Lead, seen: Mark[]] }>()
const seen = ref<Mark[]>([])
const toggle = (m: Mark) => (seen.value = seen.value.includes(m) ? seen.value.filter((s) => s !== m) : [...seen.value, m])

/** Scores what was marked, or the first mark, which the lead is followed by. */
function follow(lead: Lead) {
  emit('follow', lead, seen.value.length ? seen.value : (lead.marks ?? []).slice(0, 1))
}
</script>

<template>
  <section class="panel" :aria-label="`Couplet ${couplet.n}`" data-couplet>
    <p>
      <strong>{{ couplet.n }}</strong> <span class="soft">{{ couplet.look }}</span>
    </p>
    <div v-for="(l, i) in couplet.leads" :key="i" class="lead-row">
      <button class="press" data-lead @click="follow(l)">
        <StateDrawing v-if="l.marks?.[0]?.shows" :character="l.marks[0].character" :state="l.marks[0].shows" />
        <span>
          <strong>{{ 'ab'[i] }}</strong> {{ l.words }}
        </span>
      </button>
      <p v-if="(l.marks?.length ?? 0) > 1" class="marks small">
        Seen:
        <button
          v-for="m in l.marks"
          :key="m.character"
          type="button"
          class="press quiet"
          :aria-pressed="seen.includes(m)"
          data-mark
          @click="toggle(m)"
        >
          {{ m.words }}
        </button>
      </p>
    </div>
    <p v-if="(couplet.leads?.[0]?.marks?.length ?? 0) > 1" class="small soft">
      Press the lead that more of its marks fit. If they tie, go by the first.
    </p>
  </section>
</template>

<style scoped>
.panel,
.lead-row {
  display: grid;
  gap: 0.5rem;
}

.lead-row > .press {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 1rem;
  align-items: center;
  text-align: left;
  padding: 0.75rem 1rem;
}

.lead-row :deep(svg),
.lead-row :deep(img) {
  width: 3.5rem;
  height: 3.5rem;
}

.marks {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
}
</style>
