<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { capital } from '../frame/words'
import StateDrawing from '../plates/StateDrawing.vue'
import type { Lead, Mark } from './key'

/** One couplet: a lead is followed by pressing it. What else was seen is marked before, as several marks carry a slip. */
const props = defineProps<{ couplet: Schemas['Couplet'] }>()
const several = computed(() => (props.couplet.leads?.[0]?.marks?.length ?? 0) > 1)
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
      <div v-if="(l.marks?.length ?? 0) > 1" class="marks">
        <StateDrawing v-if="l.marks?.[0]?.shows" :character="l.marks[0].character" :state="l.marks[0].shows" />
        <ul>
          <li v-for="m in l.marks" :key="m.character">
            <button type="button" class="press mark" :aria-pressed="seen.includes(m)" data-mark @click="toggle(m)">
              <i class="pi" :class="seen.includes(m) ? 'pi-check-square' : 'pi-stop'" aria-hidden="true"></i> {{ capital(m.words) }}
            </button>
          </li>
        </ul>
      </div>
      <button class="press go" data-lead @click="follow(l)">
        <template v-if="l.marks?.length === 1">
          <StateDrawing v-if="l.marks[0]?.shows" :character="l.marks[0].character" :state="l.marks[0].shows" />
          <span>
            <strong>{{ 'ab'[i] }}</strong> {{ l.words }}
          </span>
        </template>
        <strong v-else>{{ 'ab'[i] }} fits better</strong>
      </button>
    </div>
    <p v-if="several" class="small soft">
      Tick what you see. Then press the lead with more marks that fit. If they tie, the first mark decides.
    </p>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(24rem, 100%), 1fr));
  gap: 0.5rem 1.5rem;
}

.panel > p {
  grid-column: 1 / -1;
}

.lead-row {
  display: grid;
  gap: 0.5rem;
  align-content: start;
  border-top: 1px solid var(--pt-line);
  padding-top: 0.5rem;
}

.go,
.marks {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 1rem;
  align-items: center;
  text-align: left;
}

.go {
  padding: 0.75rem 1rem;
}

ul {
  display: grid;
  gap: 0.25rem;
  list-style: none;
  margin: 0;
  padding: 0;
}

.mark {
  width: 100%;
  text-align: left;
}

.lead-row :deep(svg),
.lead-row :deep(img) {
  width: 3.5rem;
  height: 3.5rem;
}
</style>
