<script setup lang="ts">
import { nextTick, ref } from 'vue'
import { useSession } from '../frame/session'
import { useTree } from './tree'
import LookKinds from './LookKinds.vue'
import LookSlip from './LookSlip.vue'

const emit = defineEmits<{ open: [] }>()
const session = useSession()
const tree = useTree()
const adding = ref(false)

function open(id: string) {
  tree.openLook = id
  emit('open')
}

function begun() {
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
    <p v-if="tree.unlooked && session.may('observer')" class="soft">
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
    <button v-else-if="!adding && !tree.unlooked" id="add-look" class="press add" @click="begin">
      <i class="pi pi-plus" aria-hidden="true"></i> New look
    </button>
    <LookKinds v-else @begun="begun" @leave="leave" />
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

.add {
  border-style: dashed;
}
</style>
