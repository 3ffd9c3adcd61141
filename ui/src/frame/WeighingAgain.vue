<script setup lang="ts">
import type { Schemas } from '../api/client'

defineProps<{ weighing: Schemas['Weighing'] | null; which: string }>()
</script>

<template>
  <p v-if="weighing?.going" role="status" class="soft" data-weighing>
    Weighing {{ which }} again: {{ weighing.done }} done, {{ weighing.left }} to go. Work can go on.
  </p>
  <p v-else-if="weighing?.wrong" role="alert" class="wrong">Weighing the trees again stopped: {{ weighing.wrong }}</p>
</template>
