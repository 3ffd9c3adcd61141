<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { differences, showsOfLooks, showsOfPlate, type Shows } from '../plates/shows'
import { useDesk } from '../stores/desk'
import { useTree } from '../stores/tree'
import { capital, plain } from '../words'
import PlateSet from './PlateSet.vue'

const emit = defineEmits<{ close: [] }>()
const desk = useDesk()
const tree = useTree()
const plates = ref<Schemas['Plate'][]>([])
const error = ref('')

const pool = computed(() => tree.view?.facts.region || tree.view?.tree.region || '')
const leaders = computed(() => (tree.view?.result.ranking ?? []).map((r) => r.taxon).filter((t) => t !== 'unlisted').slice(0, 2))
const own = computed(() => showsOfLooks(tree.view?.looks ?? [], desk.characters))

async function load() {
  error.value = ''
  try {
    const age = (tree.view?.facts.age || 'mature') as 'young' | 'mature' | 'old'
    const got = await Promise.all(leaders.value.map((name) => api.GET('/api/flora/taxa/{name}/plate', { params: { path: { name }, query: { pool: pool.value, age } } })))
    plates.value = got.flatMap((g) => (g.data ? [g.data] : []))
  } catch {
    error.value = 'No connection to the book.'
  }
}
watch(leaders, load, { immediate: true })

const maps = computed(() => plates.value.map(showsOfPlate))
const between = computed(() => (maps.value.length === 2 ? differences(maps.value[0], maps.value[1]) : []))
const name = (id: string) => desk.characters.get(id)?.name ?? id

/** Where a candidate differs from what was scored on this tree, in words. */
function against(m: Shows): string[] {
  return differences(own.value, m).map((id) => {
    const [mine, its] = [own.value.get(id), m.get(id)]
    const say = (s?: { state?: string; value?: number; seen?: boolean }) =>
      s?.value !== undefined ? `${Number(s.value.toPrecision(2))} ${desk.characters.get(id)?.unit ?? ''}` : s?.seen !== undefined ? (s.seen ? 'seen' : 'not seen') : plain(s?.state ?? '')
    return `${name(id)}: here ${say(mine)}, usually ${say(its)}`
  })
}
const compare = computed(() => ({ path: '/compare', query: { taxon: leaders.value, tree: tree.view?.tree.id } }))
</script>

<template>
  <Dialog :visible="true" modal header="Drawn side by side" :style="{ width: '70rem', maxWidth: '98vw' }" @update:visible="emit('close')">
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <p class="soft small">To scale. What was not scored is drawn faint; what differs between the leader and the runner-up is drawn red.</p>
    <div class="three">
      <PlateSet :shows="own" title="this tree as scored" :marked="between">{{ tree.view?.tree.tag }}, as scored</PlateSet>
      <div v-for="(p, i) in plates" :key="p.name">
        <PlateSet :shows="maps[i]" :title="p.english" :marked="between">{{ capital(p.english) }} <span class="sci small">{{ p.name }}</span></PlateSet>
        <ul v-if="against(maps[i]).length" class="small differs" :aria-label="`Where it differs from ${p.english}`">
          <li v-for="d in against(maps[i])" :key="d">{{ capital(d) }}</li>
        </ul>
        <p v-else class="small soft">Nothing scored is unlike its usual self.</p>
      </div>
    </div>
    <RouterLink class="press go" :to="compare" @click="emit('close')">Everything they differ in</RouterLink>
  </Dialog>
</template>

<style scoped>
.three {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 1rem;
}

.differs {
  border-left: 4px solid var(--pt-sumac);
  padding-left: 0.5rem;
}

.go {
  display: inline-grid;
  place-items: center;
  margin-top: 0.75rem;
  color: inherit;
  text-decoration: none;
}

@media (max-width: 900px) {
  .three {
    grid-template-columns: 1fr;
  }
}
</style>
