<script setup lang="ts">
import { nextTick, ref } from 'vue'

/** Prints the page, once what it lists is there whole. */
const props = defineProps<{ whole?: () => Promise<void> }>()
const busy = ref(false)

async function print() {
  busy.value = true
  await props.whole?.()
  busy.value = false
  await nextTick()
  window.print()
}
</script>

<template>
  <button class="press no-print" data-print :disabled="busy" @click="print">
    <i class="pi pi-print" aria-hidden="true"></i> {{ busy ? 'Getting it all…' : 'Print' }}
  </button>
</template>
