<script setup lang="ts">
import { useSaving } from '../frame/saving'
import { useSettings } from '../frame/settings'

/** Has a report made and saves it; a large one takes seconds, and can be stopped. */
const props = defineProps<{ href: string; name: string; words?: string }>()
const settings = useSettings()
const { making, wrong, make } = useSaving()

function print() {
  const url = new URL(props.href, location.origin)
  url.searchParams.set('paper', settings.paper)
  void make(url, props.name)
}
</script>

<template>
  <button v-if="!making" class="press file" data-report @click="print">
    <i class="pi pi-file-pdf" aria-hidden="true"></i> {{ words ?? 'Report (PDF)' }}
  </button>
  <span v-else class="making" role="status">
    <progress aria-label="Making the report"></progress> Making the report…
    <button class="press" @click="making.abort()">Stop</button>
  </span>
  <span v-if="wrong" class="wrong" role="alert">{{ wrong }}</span>
</template>

<style scoped>
.making {
  display: flex;
  gap: 0.5rem;
  align-items: center;
}
</style>
