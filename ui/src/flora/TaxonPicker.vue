<script setup lang="ts">
import AutoComplete from 'primevue/autocomplete'
import { ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { useLate } from '../frame/late'
import { capital } from '../frame/words'

type Hit = NonNullable<Schemas['Found']['hits']>[number]

/** Finds a taxon by any of its names; says so where none goes by what was typed. */
const props = defineProps<{ id: string; label: string; without?: string[] }>()
const emit = defineEmits<{ pick: [taxon: string] }>()
const choice = ref<Hit | string | null>(null)
const found = ref<Hit[]>([])
const unknown = ref('')
const late = useLate()
const { wrong, ask } = useAsk()

async function search(e: { query: string }) {
  unknown.value = ''
  const q = e.query.trim()
  if (!q || late(q, choice.value)) return void (found.value = [])
  const { data } = await ask(api.GET('/api/flora/names', { params: { query: { q } } }))
  found.value = late(q, choice.value) ? [] : (data?.hits ?? []).filter((h) => !props.without?.includes(h.taxon)).slice(0, 40)
}

watch(choice, (c) => {
  if (!c || typeof c === 'string') return
  emit('pick', c.taxon)
  choice.value = null
})

/** Enter, or leaving the field, with what is no name chosen from the list. */
async function settle() {
  const before = choice.value
  const typed = typeof before === 'string' ? before.trim() : ''
  if (!typed) return
  await search({ query: typed })
  if (choice.value !== before) return // one was pressed meanwhile
  if (found.value.length === 1 || found.value[0]?.name.toLowerCase() === typed.toLowerCase()) choice.value = found.value[0]
  else if (found.value.length) unknown.value = `“${typed}” may be several trees: choose one from the list.`
  else unknown.value = `No tree goes by “${typed}” here, not even nearly.`
}
const words = (h: Hit) => (typeof h === 'string' ? h : `${capital(h.kind === 'english' ? h.name : h.english)} (${h.taxon})`)
</script>

<template>
  <label class="field" :for="id"
    >{{ label }}
    <AutoComplete
      ref="list"
      v-model="choice"
      :input-id="id"
      :suggestions="found"
      :option-label="words"
      :invalid="unknown !== ''"
      :aria-describedby="`${id}-said`"
      fluid
      placeholder="English, scientific or older name"
      @complete="search"
      @keydown.enter.prevent="settle"
      @blur="settle"
    />
    <span :id="`${id}-said`" class="small wrong" role="status">{{ unknown || wrong.join(' ') }}</span>
  </label>
</template>
