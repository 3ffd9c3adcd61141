<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { showsOf } from '../plates/shows'
import { useFlora } from './flora'
import { capital } from '../frame/words'
import TwigPlate from '../plates/TwigPlate.vue'

const flora = useFlora()
const plates = ref<Schemas['Plate'][]>([])
const { wrong, ask } = useAsk()

async function load() {
  const { data } = await ask(api.GET('/api/flora/plates', { params: { query: flora.among } }))
  plates.value = data ?? []
}
watch(() => flora.among, load, { immediate: true })

/** In the order of the list above, so that a filter holds here too. */
const shown = computed(() => {
  const by = new Map(plates.value.map((p) => [p.name, p]))
  return flora.taxa.flatMap((t) => by.get(t.name) ?? []).map((p) => ({ ...p, map: showsOf(p.shows) }))
})
/** They are drawn a handful a frame, those in sight first, so that the page answers meanwhile. */
const drawn = ref(0)
const handful = 8
function draw() {
  if (drawn.value >= shown.value.length) return
  drawn.value += handful
  requestAnimationFrame(draw)
}

watch(
  shown,
  () => {
    drawn.value = 0
    draw()
  },
  { immediate: true },
)
</script>

<template>
  <SaidWrong :lines="wrong" again @again="load" />
  <ul>
    <li v-for="p in shown.slice(0, drawn)" :key="p.name">
      <RouterLink :to="`/flora/${encodeURIComponent(p.name)}`">
        <TwigPlate :shows="p.map" :label="`Twig of ${p.english}`" />
        <span class="small">{{ capital(p.english) }}</span>
      </RouterLink>
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(8rem, 100%), 1fr));
  gap: 0.5rem;
}

li {
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: var(--pt-snow);
  content-visibility: auto;
  contain-intrinsic-size: 8rem 13rem;
}

a {
  display: grid;
  justify-items: center;
  padding: 0.25rem;
  color: inherit;
  text-decoration: none;
  text-align: center;
}
</style>
