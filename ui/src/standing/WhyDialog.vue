<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { useRefocus } from '../frame/refocus'
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { useTree } from '../desk/tree'
import { capital, percent } from '../frame/words'
import BitsBar from './BitsBar.vue'

const props = defineProps<{ taxon: string }>()
const emit = defineEmits<{ close: []; open: [] }>()
useRefocus()
const tree = useTree()
const why = ref<Schemas['WhyNot'] | null>(null)
const balance = ref<Schemas['Comparison'] | null>(null)
const { wrong, ask } = useAsk()

const others = computed(() => (tree.view?.result.ranking ?? []).filter((r) => r.taxon !== props.taxon).slice(0, 9))
const against = ref('')

async function load() {
  const path = { id: tree.view?.tree.id ?? '' }
  const { data } = await ask(both(path))
  if (data) [why.value, balance.value] = data
}

/** Asks both at once, and answers as one. */
async function both(path: { id: string }) {
  const [w, c] = await Promise.all([
    api.GET('/api/trees/{id}/why-not', { params: { path, query: { taxon: props.taxon } } }),
    api.GET('/api/trees/{id}/compare', { params: { path, query: { a: props.taxon, b: against.value } } }),
  ])
  return w.data && c.data
    ? { data: [w.data, c.data] as const, response: w.response }
    : { error: w.error ?? c.error, response: w.data ? c.response : w.response }
}

watch(
  () => props.taxon,
  () => {
    against.value = others.value[0]?.taxon ?? ''
    void load()
  },
  { immediate: true },
)

function go(character: string, from: string) {
  tree.goTo(character, from)
  emit('close')
  emit('open')
}
</script>

<template>
  <Dialog
    :visible="true"
    modal
    :header="capital(why?.english ?? '')"
    :style="{ width: '44rem', maxWidth: '96vw' }"
    @update:visible="emit('close')"
  >
    <SaidWrong :lines="wrong" again @again="load" />
    <template v-if="why && balance">
      <p class="lead">
        <span class="sci">{{ taxon === 'unlisted' ? '' : taxon }}</span>
        stands at place {{ why.place }}, {{ percent(why.posterior) }}. {{ why.words }}
      </p>
      <label class="pick"
        >For and against, beside
        <select v-model="against" class="press" @change="load">
          <option v-for="o in others" :key="o.taxon" :value="o.taxon">{{ o.english }}</option>
        </select>
      </label>
      <BitsBar :bits="balance.prior_bits" label="How common here" :a="balance.a_words" :b="balance.b_words" />
      <div v-for="l in balance.looks" :key="l.look" class="look">
        <BitsBar :bits="l.bits" :label="l.from_words" :a="balance.a_words" :b="balance.b_words" strong />
        <BitsBar v-for="s in l.scores" :key="s.score" :bits="s.bits" :label="s.name" :a="balance.a_words" :b="balance.b_words" />
      </div>
      <section v-if="why.wrong?.length">
        <h3>For it to lead, these would have to be wrong</h3>
        <ul>
          <li v-for="w in why.wrong" :key="w.character + w.look">{{ capital(w.name) }}</li>
        </ul>
      </section>
      <section v-if="why.settle?.length">
        <h3>To bring it back or bury it, look at</h3>
        <button v-for="n in why.settle" :key="n.character" class="press next" @click="go(n.character, n.from)">
          <strong>{{ capital(n.name) }}</strong>
          <span class="small soft">{{
            (n.answers ?? [])
              .slice(0, 3)
              .map((x) => `${x.words}: ${x.leader}`)
              .join('; ')
          }}</span>
        </button>
      </section>
    </template>
  </Dialog>
</template>

<style scoped>
.lead {
  margin-bottom: 0.75rem;
}

.pick {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
  margin-bottom: 0.5rem;
}

.look {
  margin-top: 0.5rem;
  padding-top: 0.25rem;
  border-top: 1px solid var(--pt-line);
}

section {
  margin-top: 1rem;
}

h3 {
  font-size: 1rem;
  margin-bottom: 0.25rem;
}

.next {
  display: grid;
  width: 100%;
  margin-bottom: 0.375rem;
  text-align: left;
}
</style>
