<script setup lang="ts">
import SaveFile from '../frame/SaveFile.vue'
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, type Schemas } from '../api/client'
import { count } from '../frame/words'
import { useAsk } from '../frame/ask'
import PageFrame from '../frame/PageFrame.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { amongKey, useVocabulary } from '../frame/vocabulary'
import PaperChoice from '../paper/PaperChoice.vue'
import ReportButton from '../stands/ReportButton.vue'
import KeyCouplet from './KeyCouplet.vue'
import { useKey, type Asked } from './key'

/** A key to just the trees that could be meant: to be walked here, or printed. */
const route = useRoute()
const vocabulary = useVocabulary()
const tastes = ref<Schemas['KeyTaste'][]>([])
const text = (name: string) => (typeof route.query[name] === 'string' ? route.query[name] : '')
const asked = ref<Asked>({
  region: '',
  list: text('list'),
  tract: text('tract'),
  stand: text('stand'),
  tree: text('tree'),
  taste: 'whole',
  genus: '',
  age: text('tree') ? '' : 'mature',
})
const k = useKey()
const key = k.key
const { ask } = useAsk()
const search = computed(() => new URLSearchParams(Object.entries(asked.value).filter(([, v]) => v)).toString())
const of = computed(() =>
  asked.value.tree ? `what ${k.tree.value?.tag || 'the tree'} could still be` : asked.value.stand || asked.value.tract,
)

onMounted(async () => {
  tastes.value = (await ask(api.GET('/api/key/tastes'))).data ?? []
  if (asked.value.tree) {
    const { data } = await ask(api.GET('/api/trees/{id}', { params: { path: { id: asked.value.tree } } }))
    if (data) k.tree.value = { id: data.tree.id, tag: data.tree.tag }
  }
  if (of.value) await k.make(asked.value)
})
function among(e: Event) {
  const chosen = vocabulary.words?.amongs?.find((a) => amongKey(a) === (e.target as HTMLSelectElement).value)
  Object.assign(asked.value, { region: chosen?.region ?? '', list: chosen?.list ?? '' })
}
</script>

<template>
  <PageFrame title="Key" :hint="of ? `To ${of}` : 'To just the trees that grow on your land, on paper or here'">
    <template #actions>
      <span v-if="key" class="acts">
        <SaveFile :href="`/api/key?${search}`" name="key.json">JSON</SaveFile>
        <SaveFile :href="`/api/key.html?${search}`" name="key.html">Page</SaveFile>
        <ReportButton :href="`/api/key.pdf?${search}`" name="key.pdf" words="Print (PDF)" />
      </span>
    </template>
    <form class="panel" @submit.prevent="k.make(asked)">
      <label v-if="!of" class="field"
        >Trees of
        <select data-among @change="among">
          <option v-for="a in vocabulary.words?.amongs" :key="amongKey(a)" :value="amongKey(a)" :selected="a.list === asked.list">
            {{ a.words }}
          </option>
        </select></label
      >
      <label class="field"
        >Asks of
        <select v-model="asked.taste" data-taste>
          <option v-for="t in tastes" :key="t.id" :value="t.id">{{ t.words }}</option>
        </select></label
      >
      <label class="field"
        >Age of the trees
        <select v-model="asked.age" data-age>
          <option v-if="asked.tree" value="">as of {{ k.tree.value?.tag || 'the tree' }}</option>
          <option value="young">young</option>
          <option value="mature">grown</option>
          <option value="old">old</option>
          <option value="any">any</option>
        </select></label
      >
      <label v-if="asked.taste === 'genus'" class="field">Genus <input v-model="asked.genus" required placeholder="Quercus" /></label>
      <PaperChoice />
      <button class="press lead" :disabled="k.asking.busy.value" data-make-key>
        {{ k.asking.busy.value ? 'Being made…' : key ? 'Make it anew' : 'Make the key' }}
      </button>
    </form>
    <SaidWrong :lines="k.asking.wrong.value" />
    <template v-if="key">
      <h2>{{ key.title }}</h2>
      <p v-if="k.at.value?.group" class="soft">{{ k.at.value.group }}</p>
      <ol v-if="k.way.value.length" class="way small">
        <li v-for="w in k.way.value" :key="w.n">{{ w.n }}. {{ w.lead.words }}</li>
      </ol>
      <KeyCouplet
        v-if="k.at.value"
        :key="k.at.value.n"
        :couplet="k.at.value"
        @follow="(lead, seen) => k.choose(k.at.value!.n, lead, seen)"
      />
      <section v-if="k.end.value" class="panel" aria-live="polite" data-key-end>
        <p class="name">{{ k.end.value.words }}</p>
        <p v-if="k.end.value.confirm?.length">Confirm: {{ k.end.value.confirm.join('; ') }}.</p>
        <p v-for="t in k.end.value.taken" :key="t.taxon" class="small">Mistaken for {{ t.words }}{{ t.apart ? `. ${t.apart}` : '.' }}</p>
        <p v-if="k.end.value.why" class="small">{{ k.end.value.why }}</p>
      </section>
      <p v-if="k.tree.value && k.scored.value" role="status" class="small" data-scored>
        {{ count(k.scored.value, 'score') }} on
        <RouterLink :to="`/trees/${k.tree.value.id}`">{{ k.tree.value.tag }}</RouterLink>
      </p>
      <p>
        <button v-if="k.way.value.length" class="press" data-key-back @click="k.back">Back</button>
      </p>
      <p v-for="s in key.says" :key="s" class="small soft">{{ s }}</p>
    </template>
  </PageFrame>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(13rem, 100%), 1fr));
  gap: 0.75rem;
  align-items: end;
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

.panel {
  display: grid;
  gap: 0.5rem;
}

.name {
  font-size: 1.25rem;
  font-weight: 600;
}

h2 {
  font-size: 1.125rem;
}
</style>
