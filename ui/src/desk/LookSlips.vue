<script setup lang="ts">
import { computed, ref } from 'vue'
import { useSettings } from '../frame/settings'
import { useVocabulary } from '../frame/vocabulary'
import { useTree } from './tree'
import LookSlip from './LookSlip.vue'

const emit = defineEmits<{ open: [] }>()
const vocabulary = useVocabulary()
const tree = useTree()
const settings = useSettings()
const adding = ref(false)

/** Kinds of look, in the order of the route that was chosen. */
const kinds = computed(() => {
  const order = vocabulary.words?.routes?.find((r) => r.id === settings.route)?.from ?? []
  return [...(vocabulary.words?.froms ?? [])].sort((a, b) => order.indexOf(a.id) - order.indexOf(b.id))
})

function open(id: string) {
  tree.openLook = id
  emit('open')
}

function add(from: string) {
  tree.addLook(from)
  adding.value = false
  emit('open')
}
</script>

<template>
  <aside aria-label="Looks at this tree">
    <h2>Looks</h2>
    <p v-if="tree.view?.looks?.length === 0" class="soft">
      Nothing looked at yet. Choose where you look first; one slip is one thing looked at.
    </p>
    <ol>
      <LookSlip v-for="l in tree.view?.looks" :key="l.id" :look="l" :open="l.id === tree.openLook" @open="open(l.id)" />
    </ol>
    <button v-if="!adding && tree.view?.looks?.length" id="add-look" class="press add" @click="adding = true">
      <i class="pi pi-plus" aria-hidden="true"></i> New look
    </button>
    <div v-else class="from" role="group" aria-label="Where does the look come from?">
      <button v-for="f in kinds" :key="f.id" class="press" :data-from="f.id" @click="add(f.id)">
        <span>{{ f.words }}</span>
        <span class="small soft">{{ f.hint }}</span>
      </button>
    </div>
  </aside>
</template>

<style scoped>
aside {
  display: grid;
  gap: 0.625rem;
  align-content: start;
}

h2 {
  font-size: 1rem;
}

ol {
  display: grid;
  gap: 0.5rem;
}

.from {
  display: grid;
  gap: 0.375rem;
}

.from .press {
  display: grid;
  text-align: left;
}

.add {
  border-style: dashed;
}
</style>
