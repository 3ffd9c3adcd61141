<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import WhoseTrees from '../flora/WhoseTrees.vue'
import { useFlora } from '../flora/flora'
import PageFrame from '../frame/PageFrame.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { useVocabulary } from '../frame/vocabulary'
import { count, dayWords } from '../frame/words'
import { useStands } from '../trees/stands'
import { usePracticeWalk } from './walk'

const walks = usePracticeWalk()
const stands = useStands()
const flora = useFlora()
const vocabulary = useVocabulary()
const router = useRouter()
const fresh = ref({ place: '', trees: 10, snow: 'none' as 'none' | 'deep', odd: false })
onMounted(() => {
  void walks.list()
  void stands.load()
})

async function begin() {
  const [tract, stand] = fresh.value.place.split('\n')
  const among = flora.among.region ? flora.among : { region: vocabulary.words?.regions?.[0]?.id ?? '' }
  const id = await walks.begin({
    ...among,
    ...(stand ? { tract, stand } : {}),
    trees: fresh.value.trees,
    snow: fresh.value.snow,
    odd: fresh.value.odd,
  } as Parameters<typeof walks.begin>[0])
  if (id) void router.push(`/practice/walks/${id}`)
}
</script>

<template>
  <PageFrame title="Walks" hint="A stand that does not exist, scored on the real desk" back="/practice">
    <template #actions><WhoseTrees /></template>
    <form class="panel" @submit.prevent="begin">
      <h2>Begin a walk</h2>
      <p class="soft">
        Each tree can be looked at part by part; looks take minutes. Score what you see at the desk, and write a name when you dare. What
        the trees are is told at the end.
      </p>
      <label class="field"
        >Made of what grows in
        <select v-model="fresh.place" data-walk-stand>
          <option value="">the region or list</option>
          <option v-for="p in stands.places" :key="p.key" :value="p.key">{{ p.words }}</option>
        </select></label
      >
      <label class="field"
        >Trees <input v-model.number="fresh.trees" type="number" min="5" max="20" required inputmode="numeric" data-walk-trees
      /></label>
      <label class="field"
        >Snow
        <select v-model="fresh.snow">
          <option value="none">none</option>
          <option value="deep">deep: nothing on the ground can be seen</option>
        </select></label
      >
      <label class="check"><input v-model="fresh.odd" type="checkbox" /> Odd individuals, and not only usual ones</label>
      <SaidWrong :lines="walks.wrong" />
      <button class="press lead" :disabled="walks.busy" data-begin-walk>Begin</button>
    </form>
    <section v-if="walks.all.length" class="panel">
      <h2>Earlier</h2>
      <ul class="rows">
        <li v-for="w in walks.all" :key="w.id">
          <RouterLink :to="`/practice/walks/${w.id}`">{{ w.made }}</RouterLink>
          <span class="soft small">
            {{ dayWords(w.begun) }}, {{ count(w.trees?.length ?? 0, 'tree') }}; {{ w.ended ? 'ended' : 'goes on' }}</span
          >
        </li>
      </ul>
    </section>
  </PageFrame>
</template>

<style scoped>
form {
  display: grid;
  gap: 0.75rem;
  max-width: 32rem;
}

h2 {
  font-size: 1.125rem;
}

.rows li {
  padding: 0.375rem 0.75rem;
}
</style>
