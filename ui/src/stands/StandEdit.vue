<script setup lang="ts">
import { ref, watch } from 'vue'
import { useConfirm } from 'primevue/useconfirm'
import { useToast } from 'primevue/usetoast'
import { api } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'

const props = defineProps<{ tract: string; stand: string; remarks: string }>()
const emit = defineEmits<{ kept: [tract: string, stand: string] }>()
const name = ref('')
const text = ref('')
const boundary = ref<unknown>(undefined)
const terrain = ref<unknown>(undefined)
const unread = ref<string[]>([])
const toast = useToast()
const confirm = useConfirm()
const { wrong, busy, asked, ask } = useAsk({ typed: true })
watch(
  () => [props.tract, props.stand, props.remarks],
  () => {
    name.value = props.stand || props.tract
    text.value = props.remarks
  },
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

/** Keeps all that was changed: the name last, as what else is said goes along with it. */
async function keep(merge = false) {
  const { ok } = await ask(
    props.stand
      ? api.PUT('/api/stands', { body: { tract: props.tract, stand: props.stand, remarks: text.value, boundary: boundary.value } })
      : api.PUT('/api/tracts', { body: { tract: props.tract, remarks: text.value, boundary: boundary.value, terrain: terrain.value } }),
  )
  if (!ok) return
  const { tract, stand } = props
  const to = name.value.trim()
  if (to && to !== (stand || tract)) {
    const renamed = await ask(api.POST('/api/places/rename', { body: { tract, stand: stand || undefined, to, merge: merge || undefined } }))
    if (!renamed.ok) return
  }
  done('Kept.', stand ? tract : to || tract, stand && (to || stand))
}

function done(summary: string, tract: string, stand: string) {
  toast.add({ severity: 'success', summary, life: 4000 })
  emit('kept', tract, stand)
}

function askRemove() {
  const { tract, stand } = props
  confirm.require({
    header: `Remove ${stand || tract}?`,
    message: 'Only an empty one can be removed: no trees, plots or visits. To merge it with another, give it the other’s name.',
    acceptLabel: 'Remove it',
    rejectProps: { label: 'Leave it', severity: 'secondary', outlined: true },
    defaultFocus: 'reject',
    accept: async () => {
      const { ok } = await ask(api.DELETE('/api/places', { params: { query: { tract, stand: stand || undefined } } }))
      if (ok) done('Removed.', stand ? tract : '', '')
    },
  })
}
</script>

<template>
  <form class="panel" @submit.prevent="keep()">
    <label class="field">Name <input v-model="name" maxlength="80" required data-place-name /></label>
    <label class="field">Remarks <textarea v-model="text" rows="2" maxlength="2000"></textarea></label>
    <label class="field"
      >Boundary, from a GeoJSON file <input type="file" accept=".geojson,.json" @change="async (e) => (boundary = await read(e))"
    /></label>
    <label v-if="!stand" class="field"
      >Streams, tracks and contours, from a GeoJSON file
      <input type="file" accept=".geojson,.json" @change="async (e) => (terrain = await read(e))"
    /></label>
    <SaidWrong :lines="[...unread, ...wrong]" :yes="asked === 'merge' ? 'Make them one' : undefined" @yes="keep(true)" />
    <span class="pair"
      ><button class="press lead" type="submit" :disabled="busy">Keep</button>
      <button class="press quiet" type="button" :disabled="busy" data-remove-place @click="askRemove">Remove</button></span
    >
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
