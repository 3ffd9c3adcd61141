<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed, nextTick, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api } from '../api/client'
import SaidWrong from '../frame/SaidWrong.vue'
import { amongKey, amongOf, useVocabulary } from '../frame/vocabulary'
import PlaceFields from './PlaceFields.vue'
import { useTrees } from './trees'

const store = useTrees()
const vocabulary = useVocabulary()
const router = useRouter()
const props = defineProps<{ tagged?: string }>() // what a label says
const tag = ref(props.tagged ?? '')
const tract = useLocalStorage('palethicket.tract', '')
const asked = useRoute().query.tract
if (typeof asked === 'string' && asked) tract.value = asked
const stand = useLocalStorage('palethicket.stand', '')
const kept = useLocalStorage('palethicket.among', '')
const missing = ref<{ field: string; says: string }[]>([])
onMounted(() => {
  field()?.focus()
  if (tag.value) field()?.select()
  else void propose()
})

const field = () => document.getElementById('new-tag') as HTMLInputElement | null

/** Fills in the next tag of the stand one was in last, to be typed over, unless one is typed meanwhile. */
async function propose() {
  const { data } = await api.GET('/api/trees/next').catch(() => ({ data: undefined }))
  if (tag.value || data?.tract !== tract.value || data.stand !== stand.value) return
  tag.value = data.tag
  await nextTick()
  if (document.activeElement === field()) field()?.select()
}

const amongs = computed(() => (vocabulary.words?.amongs ?? []).map((a) => ({ key: amongKey(a), words: a.words })))
const among = computed({
  get: () => (amongs.value.some((a) => a.key === kept.value) ? kept.value : (amongs.value[0]?.key ?? '')),
  set: (key) => (kept.value = key),
})

async function start(isNew = false) {
  missing.value = []
  if (!tag.value.trim()) missing.value.push({ field: 'tag', says: 'Give the tree a tag: what you write on it.' })
  if (!tract.value?.trim()) missing.value.push({ field: 'tract', says: 'Say which tract it stands in.' })
  if (!stand.value?.trim()) missing.value.push({ field: 'stand', says: 'Say which stand it is in.' })
  if (missing.value.length > 0) return document.getElementById(`new-${missing.value[0].field}`)?.focus()
  const id = await store.start(tag.value, tract.value, stand.value, amongOf(among.value), isNew)
  if (!id) return document.getElementById(store.asked ? 'new-yes' : 'new-tag')?.focus()
  await router.push({ name: 'tree', params: { id } })
}
</script>

<template>
  <form novalidate @submit.prevent="start()">
    <label class="field"
      >Tag
      <input
        id="new-tag"
        v-model="tag"
        maxlength="40"
        autocomplete="off"
        placeholder="LC-401"
        :aria-invalid="missing.some((m) => m.field === 'tag') || store.refused.length > 0"
        aria-describedby="new-wrong"
      />
    </label>
    <PlaceFields v-model:tract="tract" v-model:stand="stand" name="new" :lacks="missing.map((m) => m.field)" wrong="new-wrong" />
    <label class="field"
      >It could be any tree of
      <select id="new-among" v-model="among">
        <option v-for="a in amongs" :key="a.key" :value="a.key">{{ a.words }}</option>
      </select>
    </label>
    <button id="new-start" class="press lead" type="submit" :disabled="store.busy">Open it</button>
    <SaidWrong
      id="new-wrong"
      class="wide"
      :lines="[...missing.map((m) => m.says), ...store.refused]"
      :yes="store.asked === 'new' ? 'It is new: make it' : undefined"
      yes-id="new-yes"
      @yes="start(true)"
    />
  </form>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: 7rem 1.4fr 1fr 1fr auto;
  gap: 0.75rem;
  align-items: end;
  padding: 1rem;
  border: 1px solid var(--pt-line);
  border-radius: 10px;
  background: var(--pt-snow);
}

.wide {
  grid-column: 1 / -1;
}

@media (max-width: 700px) {
  form {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
