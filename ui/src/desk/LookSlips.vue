<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import { useSettings } from '../frame/settings'
import { useVocabulary } from '../frame/vocabulary'
import { useSession } from '../frame/session'
import { useTree } from './tree'
import LookSlip from './LookSlip.vue'

const emit = defineEmits<{ open: [] }>()
const vocabulary = useVocabulary()
const session = useSession()
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

function begin() {
  adding.value = true
  void nextTick(() => document.querySelector<HTMLElement>('[data-choosing] [data-from]')?.focus())
}

function leave() {
  adding.value = false
  void nextTick(() => document.getElementById('add-look')?.focus())
}
</script>

<template>
  <aside aria-label="Looks at this tree">
    <h2>Looks</h2>
    <p v-if="tree.looks.length === 0 && session.may('observer')" class="soft">
      Nothing looked at yet. Choose where you look first; one slip is one thing looked at.
    </p>
    <ol>
      <LookSlip
        v-for="l in tree.looks"
        :key="l.id"
        :look="l"
        :open="l.id === tree.openLook"
        :begun="l.id === tree.draft?.id"
        @open="open(l.id)"
      />
    </ol>
    <template v-if="!session.may('observer')"></template>
    <button v-else-if="!adding && tree.looks.length" id="add-look" class="press add" @click="begin">
      <i class="pi pi-plus" aria-hidden="true"></i> New look
    </button>
    <div v-else class="from" role="group" aria-label="Where does the look come from?" data-choosing>
      <button v-for="f in kinds" :key="f.id" class="press" :data-from="f.id" @click="add(f.id)">
        <span>{{ f.words }}</span>
        <span class="small soft">{{ f.hint }}</span>
      </button>
      <button v-if="tree.looks.length" class="press quiet" data-leave @click="leave">No new look</button>
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
