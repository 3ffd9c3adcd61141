<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { capital } from '../frame/words'
import { plateAddress, useDrawings } from '../plates/addresses'
import PlateImage from '../plates/PlateImage.vue'
import { useFlora } from './flora'

/** All trees of the list as twigs, barks or outlines. */
const props = defineProps<{ what: 'twig' | 'bark' | 'outline' }>()
const flora = useFlora()
const plates = ref<Schemas['Plate'][]>([])
const { wrong, ask } = useAsk()
const { digest, theme } = useDrawings()

async function load() {
  const { data } = await ask(api.GET('/api/flora/plates', { params: { query: flora.among } }))
  plates.value = data ?? []
}
watch(() => flora.among, load, { immediate: true })

/** In the order of the list above, so that a filter holds here too. */
const shown = computed(() => {
  const by = new Map(plates.value.map((p) => [p.name, p]))
  return flora.taxa.flatMap((t) => by.get(t.name) ?? [])
})
const address = (name: string) => (theme: string) =>
  plateAddress({ what: props.what, taxon: name, region: flora.among.region }, digest.value, theme)
</script>

<template>
  <SaidWrong :lines="wrong" again @again="load" />
  <ul :class="what">
    <li v-for="p in shown" :key="p.name">
      <RouterLink :to="`/flora/${encodeURIComponent(p.name)}`">
        <PlateImage still :address="address(p.name)" :theme="theme" :says="p.says[what]" />
        <span class="small">{{ capital(p.english) }}</span>
      </RouterLink>
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(9rem, 100%), 1fr));
  gap: 0.5rem;
}

li {
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: var(--pt-snow);
  content-visibility: auto;
  contain-intrinsic-size: 9rem 18rem;
}

a {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  gap: 0.25rem;
  height: 100%;
  padding: 0.25rem;
  color: inherit;
  text-decoration: none;
  text-align: center;
}

a :deep(img) {
  aspect-ratio: 80 / 150;
}

.bark a :deep(img) {
  aspect-ratio: 400 / 520;
}

.outline a :deep(img) {
  aspect-ratio: 84 / 112;
}
</style>
