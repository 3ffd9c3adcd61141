<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { computed, ref, watch } from 'vue'
import { api, problemLines, type Schemas } from '../api/client'
import { useDesk } from '../stores/desk'
import { useTree } from '../stores/tree'
import { capital, fromWord, percent } from '../words'
import BitsBar from './BitsBar.vue'

const props = defineProps<{ taxon: string }>()
const emit = defineEmits<{ close: []; open: [] }>()
const desk = useDesk()
const tree = useTree()
const why = ref<Schemas['WhyNot'] | null>(null)
const balance = ref<Schemas['Comparison'] | null>(null)
const error = ref('')

const others = computed(() => (tree.view?.result.ranking ?? []).slice(0, 10).map((r) => r.taxon))
const against = ref('')

async function load() {
  const id = tree.view?.tree.id ?? ''
  error.value = ''
  try {
    const path = { id }
    const [w, c] = await Promise.all([
      api.GET('/api/trees/{id}/why-not', { params: { path, query: { taxon: props.taxon } } }),
      api.GET('/api/trees/{id}/compare', { params: { path, query: { a: props.taxon, b: against.value } } }),
    ])
    why.value = w.data ?? null
    balance.value = c.data ?? null
    if (!w.data) error.value = problemLines(w.error).join(' ')
  } catch {
    error.value = 'No connection to the book.'
  }
}

watch(() => props.taxon, (t) => {
  against.value = others.value.find((o) => o !== t) ?? ''
  void load()
}, { immediate: true })

function go(character: string, from: string) {
  tree.goTo(character, from)
  emit('close')
  emit('open')
}
</script>

<template>
  <Dialog
    :visible="true" modal :header="capital(desk.english(taxon))" :style="{ width: '44rem', maxWidth: '96vw' }"
    @update:visible="emit('close')"
  >
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <template v-if="why && balance">
      <p class="lead">
        <span class="sci">{{ taxon === 'unlisted' ? '' : taxon }}</span>
        stands at place {{ why.place }}, {{ percent(why.posterior) }}. {{ why.words }}
      </p>
      <label class="pick">For and against, beside
        <select v-model="against" class="press" @change="load">
          <option v-for="o in others.filter((x) => x !== taxon)" :key="o" :value="o">{{ desk.english(o) }}</option>
        </select>
      </label>
      <BitsBar :bits="balance.prior_bits" label="How common here" :a="desk.english(taxon)" :b="desk.english(against)" />
      <div v-for="l in balance.looks" :key="l.look" class="look">
        <BitsBar :bits="l.bits" :label="fromWord(l.from)" :a="desk.english(taxon)" :b="desk.english(against)" strong />
        <BitsBar
          v-for="s in l.scores" :key="s.score" :bits="s.bits" :label="desk.characters.get(s.character)?.name ?? s.character"
          :a="desk.english(taxon)" :b="desk.english(against)"
        />
      </div>
      <section v-if="why.wrong?.length">
        <h3>For it to lead, these would have to be wrong</h3>
        <ul><li v-for="w in why.wrong" :key="w.character + w.look">{{ capital(desk.characters.get(w.character)?.name ?? w.character) }}</li></ul>
      </section>
      <section v-if="why.settle?.length">
        <h3>To bring it back or bury it, look at</h3>
        <button v-for="n in why.settle" :key="n.character" class="press next" @click="go(n.character, n.from)">
          <strong>{{ capital(n.name) }}</strong>
          <span class="small soft">{{ (n.answers ?? []).slice(0, 3).map((x) => `${x.words}: ${x.leader}`).join('; ') }}</span>
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
