<script setup lang="ts">
import AutoComplete from 'primevue/autocomplete'
import { onMounted, ref } from 'vue'
import { useStands } from './stands'

/** Where a tree stands: the tracts and stands of the book, or a name that is written. */
const tract = defineModel<string>('tract', { required: true })
const stand = defineModel<string>('stand', { required: true })
defineProps<{ name: string; lacks?: string[]; wrong?: string }>()
const known = useStands()
const found = ref<string[]>([])
const fields = [
  { id: 'tract', words: 'Tract', model: tract, known: () => known.tracts },
  {
    id: 'stand',
    words: 'Stand',
    model: stand,
    known: () => known.all.filter((s) => !tract.value || s.tract === tract.value).map((s) => s.stand),
  },
]

onMounted(async () => {
  await known.load()
  if (!tract.value && known.tracts.length === 1) tract.value = known.tracts[0]
})

function offer(names: string[], query: string) {
  found.value = [...new Set(names)].filter((n) => n.toLowerCase().includes(query.toLowerCase()))
}
</script>

<template>
  <label v-for="f in fields" :key="f.id" class="field" :for="`${name}-${f.id}`"
    >{{ f.words }}
    <AutoComplete
      v-model="f.model.value"
      :input-id="`${name}-${f.id}`"
      :invalid="lacks?.includes(f.id)"
      :aria-describedby="wrong"
      :suggestions="found"
      :maxlength="80"
      complete-on-focus
      fluid
      :placeholder="`Name of a ${f.id}`"
      @complete="(e) => offer(f.known(), e.query)"
    />
  </label>
</template>
