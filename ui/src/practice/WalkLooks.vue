<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { seconds } from '../frame/words'
import { useDrawings } from '../plates/addresses'
import PlateImage from '../plates/PlateImage.vue'
import { usePracticeWalk } from './walk'

/** On a walk: what can be looked at of this tree, what each look takes, and what it shows. */
const props = defineProps<{ walk: string; tree: string }>()
const walks = usePracticeWalk()
const { theme } = useDrawings()
const chosen = ref('')
const tree = computed(() => walks.walk?.trees?.find((t) => t.id === props.tree))
const part = computed(() => tree.value?.parts?.find((p) => p.id === chosen.value && p.looked))
onMounted(() => walks.load(props.walk))
watch(
  () => props.tree,
  () => (chosen.value = ''),
)

async function look(id: string) {
  if (!tree.value) return
  const there = tree.value.parts?.find((p) => p.id === id)
  if (there?.looked) {
    chosen.value = chosen.value === id ? '' : id
    return
  }
  await walks.look(tree.value.n, id)
  chosen.value = id
}
</script>

<template>
  <section v-if="tree" class="panel" aria-label="Looking" data-walk-looks>
    <div class="bar">
      <RouterLink class="press" :to="`/practice/walks/${walk}`">The walk</RouterLink>
      <button
        v-for="p in tree.parts"
        :key="p.id"
        class="press"
        :data-part="p.id"
        :aria-pressed="chosen === p.id"
        :disabled="Boolean(p.not) || walks.busy || (!p.looked && Boolean(walks.walk?.ended))"
        @click="look(p.id)"
      >
        {{ p.words }}
        <span class="small soft"
          ><template v-if="p.not">{{ p.not }}</template
          ><template v-else-if="p.looked">looked, {{ seconds(p.seconds) }}</template
          ><template v-else>about {{ seconds(p.seconds) }}</template></span
        >
      </button>
      <span class="soft small" data-spent>{{ seconds(tree.seconds) }} spent here</span>
    </div>
    <SaidWrong :lines="walks.wrong" />
    <div v-if="part" class="seen">
      <PlateImage
        v-if="part.drawn"
        :key="part.id"
        :address="walks.drawing(tree.n, part.id)"
        :theme="theme"
        :says="`${part.words}: a drawing, to be scored`"
      />
      <ul v-if="part.says?.length" class="small">
        <li v-for="s in part.says" :key="s">{{ s }}</li>
      </ul>
      <p v-else-if="!part.drawn" class="soft">Nothing to be seen.</p>
    </div>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 0.5rem;
  margin: 0.5rem 1rem;
  padding: 0.5rem;
}

.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.375rem;
  align-items: center;
}

.bar .press {
  display: grid;
  text-align: left;
  line-height: 1.15;
}

.seen {
  display: flex;
  flex-wrap: wrap;
  gap: 1rem;
  align-items: start;
}

.seen :deep(img) {
  max-height: 36vh;
  max-width: 24rem;
}
</style>
