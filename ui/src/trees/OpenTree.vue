<script setup lang="ts">
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import type { Unsettled } from '../api/client'
import { useVocabulary } from '../frame/vocabulary'
import { useSession } from '../frame/session'
import { useTree } from '../desk/tree'
import { dayWords, seconds, worth } from '../frame/words'

const props = defineProps<{ tree: Unsettled }>()
const vocabulary = useVocabulary()
const session = useSession()
const store = useTree()
const router = useRouter()
const status = computed(() => vocabulary.status(props.tree.status))
/** What is pressed where it is no look that is wanted. */
const does = computed(() => (props.tree.do === 'write' ? 'Write the name down' : props.tree.do === 'correct' ? 'Correct the name' : ''))
const back = computed(() => props.tree.back?.[0])

/** Opens the tree at the look that is worth most, or where its name is written. */
function take() {
  store.wantedAfter = does.value ? { naming: true } : { character: props.tree.next, from: props.tree.next_from }
  void router.push({ name: 'tree', params: { id: props.tree.id } })
}
</script>

<template>
  <li>
    <div class="which">
      <RouterLink class="tag" :to="{ name: 'tree', params: { id: tree.id } }">
        <span class="sign" :class="tree.status" role="img" :aria-label="status?.words" :title="status?.words">{{ status?.sign }}</span>
        {{ tree.tag }}
      </RouterLink>
      <span class="soft small">{{ tree.stand }}</span>
    </div>
    <div class="case">
      <p>{{ tree.between }}</p>
      <p v-if="tree.why" class="small hint why">{{ tree.why }}</p>
      <p v-if="tree.due" class="small" :class="tree.soon ? 'hint' : 'soft'" data-due>{{ tree.due }}</p>
      <p v-if="back && tree.do !== 'write' && tree.do !== 'correct'" class="small soft">
        {{ tree.look ? 'Or come back' : 'Come back' }} when {{ back.words }}: {{ dayWords(back.from) }} to {{ dayWords(back.to)
        }}<template v-if="back.separate">; the day alone tells the first two apart</template>
      </p>
    </div>
    <button v-if="does && session.may('observer')" class="press look" data-name-it @click="take">
      <span>{{ does }}</span>
      <span v-if="tree.settled" class="small soft">{{ tree.words }}</span>
    </button>
    <button v-else-if="tree.look" class="press look" data-take @click="take">
      <span>{{ tree.look }}</span>
      <span class="small soft"
        ><template v-if="tree.home"><i class="pi pi-home" aria-hidden="true"></i> twig in hand · </template>{{ worth(tree.next_bits) }},
        {{ seconds(tree.next_seconds) }}</span
      >
    </button>
    <p v-else class="look soft small">No look within reach would help; come back.</p>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 8.5rem 1fr minmax(0, 24rem);
  gap: 0.25rem 1rem;
  align-items: center;
  padding: 0.5rem 1rem;
}

.which {
  display: grid;
}

.tag {
  display: flex;
  align-items: center;
  gap: 0.25rem;
  min-height: 44px;
  font-weight: 700;
  color: inherit;
}

.why {
  justify-self: start;
  width: fit-content;
}

.look {
  display: grid;
  gap: 0.125rem;
  text-align: left;
}

@media (max-width: 700px) {
  li {
    grid-template-columns: minmax(0, 1fr);
    padding: 0.625rem 0.75rem;
  }

  .which {
    grid-auto-flow: column;
    justify-content: space-between;
    align-items: center;
  }
}
</style>
