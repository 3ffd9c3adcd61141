<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'

/** What weather and light suggest for a visit, each with its reason; nothing of it is set by itself. */
const props = defineProps<{ is: Record<string, string> }>()
const emit = defineEmits<{ use: [field: 'snow' | 'light', value: string, words: string] }>()
const now = ref<Schemas['Outside'] | null>(null)
const { ask } = useAsk()
onMounted(async () => {
  const { data } = await ask(api.GET('/api/outside'))
  if (data) now.value = data
})
const other = (p: Schemas['OutsidePreset']) => props.is[p.field] !== p.value
</script>

<template>
  <div v-if="now && (now.words || now.cautions?.length || now.presets?.some(other))" class="outside" data-outside>
    <p v-for="c in now.cautions" :key="c" class="straw">{{ c }}</p>
    <p v-if="now.words" class="small soft">{{ now.words }}</p>
    <p v-for="p in now.presets?.filter(other)" :key="p.field" class="small">
      {{ p.words }}? {{ p.why }}.
      <button type="button" class="press" :data-use="p.field" @click="emit('use', p.field, p.value, now.words)">
        Use {{ p.words.toLowerCase() }}
      </button>
    </p>
  </div>
</template>

<style scoped>
.outside {
  display: grid;
  gap: 0.25rem;
  flex-basis: 100%;
}

.straw {
  padding: 0.25rem 0.5rem;
  background: var(--pt-straw);
  color: var(--pt-straw-ink);
}
</style>
