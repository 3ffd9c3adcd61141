<script setup lang="ts">
import { onMounted } from 'vue'
import { useFilter } from '../stores/filter'
import { statuses, type StatusID } from '../words'

const props = defineProps<{ offer?: StatusID[] }>()
const filter = useFilter()
onMounted(filter.load)
const offered = statuses.filter((s) => !props.offer || props.offer.includes(s.id))
const value = (e: Event) => (e.target as HTMLSelectElement).value

function place(e: Event) {
  const [tract, stand] = value(e).split('\n')
  filter.choose(tract ?? '', stand ?? '')
}
</script>

<template>
  <form class="filter" role="search" @submit.prevent>
    <label class="field find"><span class="sr-only">Find by tag, remark or name</span>
      <input id="find" v-model="filter.typed" type="search" placeholder="Tag, remark or name of a tree" maxlength="80" />
    </label>
    <label class="field where"><span class="sr-only">Stand</span>
      <select id="place" :value="`${filter.tract}\n${filter.stand}`" @change="place">
        <option value="&#10;">Every stand</option>
        <optgroup v-for="t in filter.tracts" :key="t" :label="t">
          <option :value="`${t}\n`">All of {{ t }}</option>
          <option v-for="p in filter.places.filter((p) => p.tract === t)" :key="p.stand" :value="`${t}\n${p.stand}`">{{ p.stand }} ({{ p.trees }})</option>
        </optgroup>
      </select>
    </label>
    <div class="chips" role="group" aria-label="Status">
      <button v-for="s in offered" :key="s.id" type="button" class="press chip" :data-status="s.id" :aria-pressed="filter.status.includes(s.id)" @click="filter.toggle(s.id)">
        <span aria-hidden="true" class="sign" :class="s.id">{{ s.sign }}</span> {{ s.label }}
      </button>
    </div>
  </form>
</template>

<style scoped>
.filter {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

.find {
  flex: 1 1 14rem;
}

.where {
  flex: 1 1 12rem;
}

.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem;
}

.chip {
  font-size: 0.9375rem;
  padding-inline: 0.625rem;
}
</style>
