<script setup lang="ts">
import { ref } from 'vue'
import { useTree } from './tree'

const tree = useTree()
const note = ref(tree.look?.note ?? '')

function keep() {
  if (tree.look && note.value.trim() !== tree.look.note) tree.noteLook(tree.openLook, note.value.trim())
}
</script>

<template>
  <label class="note"
    ><span class="small soft">Note</span>
    <input v-model="note" maxlength="2000" placeholder="which side, how far up, whose twig" @change="keep" />
  </label>
</template>

<style scoped>
.note {
  display: flex;
  gap: 0.5rem;
  align-items: center;
}

input {
  flex: 1;
  min-height: 44px;
  border: 0;
  border-bottom: 1px solid var(--pt-line);
  background: transparent;
}
</style>
