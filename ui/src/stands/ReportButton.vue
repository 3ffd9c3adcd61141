<script setup lang="ts">
import { onBeforeUnmount, ref } from 'vue'
import { problemLines } from '../api/client'
import { noConnection } from '../frame/ask'
import { saveAs } from '../frame/save'
import { useSettings } from '../frame/settings'
import { askDevice, isAway } from '../woods/device'

/** Has a report made and saves it; a large one takes seconds, and can be stopped. */
const props = defineProps<{ href: string; name: string; words?: string }>()
const settings = useSettings()
const making = ref<AbortController | null>(null)
const wrong = ref('')

async function make() {
  const stop = new AbortController()
  making.value = stop
  wrong.value = ''
  try {
    const url = new URL(props.href, location.origin)
    url.searchParams.set('paper', settings.paper)
    const answer = await (isAway() ? askDevice(new Request(url)) : fetch(url, { signal: stop.signal }))
    if (stop.signal.aborted) return
    if (!answer.ok) throw new Error(problemLines(await answer.json()).join(' '))
    saveAs(await answer.blob(), props.name)
  } catch (e) {
    if (!stop.signal.aborted) wrong.value = e instanceof TypeError ? noConnection : (e as Error).message
  }
  making.value = null
}

onBeforeUnmount(() => making.value?.abort())
</script>

<template>
  <button v-if="!making" class="press file" data-report @click="make">
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
