<script setup lang="ts">
import { computed } from 'vue'
import { useSettings } from '../frame/settings'
import { useVocabulary } from '../frame/vocabulary'
import { useTree } from './tree'

/** Where a new look comes from, in the order of the route that was chosen. */
const emit = defineEmits<{ begun: []; leave: [] }>()
const vocabulary = useVocabulary()
const tree = useTree()
const settings = useSettings()
const kinds = computed(() => {
  const order = vocabulary.words?.routes?.find((r) => r.id === settings.route)?.from ?? []
  return [...(vocabulary.words?.froms ?? [])].sort((a, b) => order.indexOf(a.id) - order.indexOf(b.id))
})

function begin(from: string) {
  tree.addLook(from)
  emit('begun')
}
</script>

<template>
  <div class="from" role="group" aria-label="Where does the look come from?" data-choosing>
    <button v-for="f in kinds" :key="f.id" class="press" :data-from="f.id" @click="begin(f.id)">
      <span>{{ f.words }}</span>
      <span class="small soft">{{ f.hint }}</span>
    </button>
    <button v-if="!tree.unlooked" class="press quiet" data-leave @click="emit('leave')">No new look</button>
  </div>
</template>

<style scoped>
.from {
  display: grid;
  gap: 0.375rem;
}

.from .press {
  display: grid;
  text-align: left;
}
</style>
