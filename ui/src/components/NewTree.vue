<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useFilter } from '../stores/filter'
import { useDesk } from '../stores/desk'
import { useTrees } from '../stores/trees'
import { regionWord } from '../words'

const store = useTrees()
const filter = useFilter()
const desk = useDesk()
const router = useRouter()
const tag = ref('')
const tract = useLocalStorage('palethicket.tract', '')
const stand = useLocalStorage('palethicket.stand', '')
const pool = useLocalStorage('palethicket.pool', 'eastern-north-america')
const wrong = ref<string[]>([])
const busy = ref(false)

const stands = computed(() => filter.places.filter((p) => !tract.value || p.tract === tract.value).map((p) => p.stand))

const pools = computed(() => desk.desk?.pools ?? [])

async function start() {
  wrong.value = []
  if (!tag.value.trim()) wrong.value.push('Give the tree a tag: what you write on it.')
  if (!tract.value.trim()) wrong.value.push('Say which tract it stands in.')
  if (!stand.value.trim()) wrong.value.push('Say which stand it is in.')
  if (wrong.value.length > 0) return
  busy.value = true
  const { id, wrong: lines } = await store.start(tag.value, tract.value, stand.value, pools.value.includes(pool.value) ? pool.value : pools.value[0])
  busy.value = false
  if (id) await router.push({ name: 'tree', params: { id } })
  else wrong.value = lines ?? []
}
</script>

<template>
  <form novalidate @submit.prevent="start">
    <label class="field">Tag
      <input id="new-tag" v-model="tag" maxlength="40" autocomplete="off" placeholder="LC-401" />
    </label>
    <label class="field">Tract
      <input id="new-tract" v-model="tract" maxlength="80" list="tracts" autocomplete="off" placeholder="Lantern Creek watershed forest" />
      <datalist id="tracts"><option v-for="t in filter.tracts" :key="t" :value="t"></option></datalist>
    </label>
    <label class="field">Stand
      <input id="new-stand" v-model="stand" maxlength="80" list="stands" autocomplete="off" placeholder="Upper slope" />
      <datalist id="stands"><option v-for="s in stands" :key="s" :value="s"></option></datalist>
    </label>
    <label class="field">It could be any tree of
      <select id="new-pool" v-model="pool"><option v-for="p in pools" :key="p" :value="p">{{ regionWord(p) }}</option></select>
    </label>
    <button id="new-start" class="press go" type="submit" :disabled="busy">Open it</button>
    <p v-for="line in wrong" :key="line" class="wrong" role="alert">{{ line }}</p>
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

.go {
  background: var(--pt-spruce);
  border-color: var(--pt-spruce);
  color: var(--pt-snow);
  font-weight: 600;
}

.wrong {
  grid-column: 1 / -1;
}

@media (max-width: 700px) {
  form {
    grid-template-columns: 1fr;
  }
}
</style>
