<script setup lang="ts">
import AutoComplete from 'primevue/autocomplete'
import { computed, onMounted, ref } from 'vue'
import { useStands } from './stands'

/** Where a tree stands: the tracts and stands of the book, or a name that is written. */
const tract = defineModel<string>('tract', { required: true })
const stand = defineModel<string>('stand', { required: true })
defineProps<{ name: string; lacks?: string[]; wrong?: string }>()
const known = useStands()
const found = ref<string[]>([])
const inTract = computed(() => known.all.filter((s) => !tract.value || s.tract === tract.value).map((s) => s.stand))

onMounted(async () => {
  await known.load()
  if (!tract.value && known.tracts.length === 1) tract.value = known.tracts[0]
})

function offer(names: string[], query: string) {
  found.value = [...new Set(names)].filter((n) => n.toLowerCase().includes(query.toLowerCase()))
}
</script>

<template>
  <label class="field" :for="`${name}-tract`"
    >Tract
    <AutoComplete
      v-model="tract"
      :input-id="`${name}-tract`"
      :invalid="lacks?.includes('tract')"
      :aria-describedby="wrong"
      :suggestions="found"
      :maxlength="80"
      complete-on-focus
      fluid
      placeholder="Name of a tract"
      @complete="(e) => offer(known.tracts, e.query)"
    />
  </label>
  <label class="field" :for="`${name}-stand`"
    >Stand
    <AutoComplete
      v-model="stand"
      :input-id="`${name}-stand`"
      :invalid="lacks?.includes('stand')"
      :aria-describedby="wrong"
      :suggestions="found"
      :maxlength="80"
      complete-on-focus
      fluid
      placeholder="Name of a stand"
      @complete="(e) => offer(inTract, e.query)"
    />
  </label>
</template>
