<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { useRefocus } from '../frame/refocus'
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { useTree } from '../desk/tree'
import { capital } from '../frame/words'
import PlateSet from '../plates/PlateSet.vue'

const emit = defineEmits<{ close: [] }>()
useRefocus()
const tree = useTree()
const drawn = ref<Schemas['Drawn'] | null>(null)
const { wrong, ask } = useAsk()

async function load() {
  const { data } = await ask(api.GET('/api/trees/{id}/drawn', { params: { path: { id: tree.view?.tree.id ?? '' } } }))
  if (data) drawn.value = data
}
watch(() => tree.view?.last, load, { immediate: true })

const leaders = computed(() => drawn.value?.leaders ?? [])
const between = computed(() => leaders.value[0]?.marked ?? [])
const compare = computed(() => ({ path: '/compare', query: { taxon: leaders.value.map((l) => l.name), tree: tree.view?.tree.id } }))
</script>

<template>
  <Dialog :visible="true" modal header="Drawn side by side" :style="{ width: '70rem', maxWidth: '98vw' }" @update:visible="emit('close')">
    <SaidWrong :lines="wrong" again @again="load" />
    <p class="soft small">To scale. What was not scored is drawn faint; what differs between the leader and the runner-up is drawn red.</p>
    <div class="three">
      <PlateSet v-if="drawn && tree.view" :tree="tree.view.tree.id" :last="tree.view.last" :says="drawn.says" :marked="between"
        >{{ tree.view.tree.tag }}, as scored</PlateSet
      >
      <div v-for="p in leaders" :key="p.name">
        <PlateSet :taxon="p.name" :region="tree.view?.facts.among.region" :age="tree.view?.facts.age" :says="p.says" :marked="between"
          >{{ capital(p.english) }} <span class="sci small">{{ p.name }}</span></PlateSet
        >
        <ul v-if="p.differs?.length" class="small differs" :aria-label="`Where it differs from ${p.english}`">
          <li v-for="d in p.differs" :key="d">{{ d }}</li>
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
