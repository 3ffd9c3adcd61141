<script setup lang="ts">
import { ref, watch } from 'vue'
import { useToast } from 'primevue/usetoast'
import { api } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'

const props = defineProps<{ tract: string; stand: string; remarks: string }>()
const emit = defineEmits<{ kept: [] }>()
const text = ref('')
const boundary = ref<unknown>(undefined)
const terrain = ref<unknown>(undefined)
const unread = ref<string[]>([])
const toast = useToast()
const { wrong, busy, ask } = useAsk({ typed: true })
watch(
  () => props.remarks,
  (r) => (text.value = r),
  { immediate: true },
)

async function read(e: Event): Promise<unknown> {
  const file = (e.target as HTMLInputElement).files?.[0]
  unread.value = []
  if (!file) return undefined
  try {
    return JSON.parse(await file.text())
  } catch {
    unread.value = [`${file.name} is not GeoJSON. Save the boundary as GeoJSON (longitude, latitude) and choose it again.`]
    return undefined
  }
}

async function keep() {
  const { ok } = await ask(
    props.stand
      ? api.PUT('/api/stands', { body: { tract: props.tract, stand: props.stand, remarks: text.value, boundary: boundary.value } })
      : api.PUT('/api/tracts', { body: { tract: props.tract, remarks: text.value, boundary: boundary.value, terrain: terrain.value } }),
  )
  if (!ok) return
  toast.add({ severity: 'success', summary: 'Kept.', life: 4000 })
  emit('kept')
}
</script>

<template>
  <form class="panel" @submit.prevent="keep">
    <label class="field">Remarks <textarea v-model="text" rows="2" maxlength="2000"></textarea></label>
    <label class="field"
      >Boundary, from a GeoJSON file <input type="file" accept=".geojson,.json" @change="async (e) => (boundary = await read(e))"
    /></label>
    <label v-if="!stand" class="field"
      >Streams, tracks and contours, from a GeoJSON file
      <input type="file" accept=".geojson,.json" @change="async (e) => (terrain = await read(e))"
    /></label>
    <SaidWrong :lines="[...unread, ...wrong]" />
    <button class="press lead" type="submit" :disabled="busy">Keep</button>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 0.5rem;
  width: 100%;
  justify-items: start;
}

.field {
  width: 100%;
}
</style>
