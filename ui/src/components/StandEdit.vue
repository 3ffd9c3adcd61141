<script setup lang="ts">
import { ref, watch } from 'vue'
import { api, problemLines } from '../api/client'

const props = defineProps<{ tract: string; stand: string; remarks: string }>()
const emit = defineEmits<{ kept: [] }>()
const text = ref('')
const boundary = ref<unknown>(undefined)
const ground = ref<unknown>(undefined)
const wrong = ref<string[]>([])
const kept = ref('')
watch(() => props.remarks, (r) => (text.value = r), { immediate: true })

async function read(e: Event): Promise<unknown> {
  const file = (e.target as HTMLInputElement).files?.[0]
  wrong.value = []
  if (!file) return undefined
  try {
    return JSON.parse(await file.text())
  } catch {
    wrong.value = [`${file.name} is not GeoJSON. Save the boundary as GeoJSON (longitude, latitude) and choose it again.`]
    return undefined
  }
}

async function keep() {
  kept.value = ''
  try {
    const { error } = props.stand
      ? await api.PUT('/api/stands', { body: { tract: props.tract, stand: props.stand, remarks: text.value, boundary: boundary.value } })
      : await api.PUT('/api/tracts', { body: { tract: props.tract, remarks: text.value, boundary: boundary.value, ground: ground.value } })
    wrong.value = error ? problemLines(error) : []
    if (!error) {
      kept.value = 'Kept.'
      emit('kept')
    }
  } catch {
    wrong.value = ['No connection to the book. What you typed is still here; try again.']
  }
}
</script>

<template>
  <form class="panel" @submit.prevent="keep">
    <label class="field">Remarks <textarea v-model="text" rows="2" maxlength="2000"></textarea></label>
    <label class="field">Boundary, from a GeoJSON file <input type="file" accept=".geojson,.json" @change="async (e) => (boundary = await read(e))" /></label>
    <label v-if="!stand" class="field">Streams, tracks and contours, from a GeoJSON file <input type="file" accept=".geojson,.json" @change="async (e) => (ground = await read(e))" /></label>
    <p v-for="w in wrong" :key="w" class="wrong" role="alert">{{ w }}</p>
    <p v-if="kept" role="status">{{ kept }}</p>
    <button class="press lead" type="submit">Keep</button>
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
