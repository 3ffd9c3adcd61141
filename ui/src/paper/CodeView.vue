<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import PageFrame from '../frame/PageFrame.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { useSession } from '../frame/session'
import ScanCode from './ScanCode.vue'

/** Opens the tree that a label's code is of: followed as a link, scanned, or typed. */
const props = defineProps<{ id?: string }>()
const route = useRoute()
const router = useRouter()
const session = useSession()
const typed = ref('')
const found = ref<Schemas['CodeFound'] | null>(null)
const { wrong, busy, ask } = useAsk({ typed: true })

async function open(code: string) {
  if (!code.trim()) return
  found.value = null
  const { data } = await ask(api.GET('/api/code', { params: { query: { code } } }))
  if (!data) return
  found.value = data
  const [only, ...others] = data.trees ?? []
  if (only && !others.length) await router.replace({ name: 'tree', params: { id: only.id } })
}
const followed = computed(() => (props.id || route.query.tag ? route.fullPath : ''))
watch(followed, (code) => code && void open(code), { immediate: true })
const none = computed(() => found.value && !found.value.trees?.length)
</script>

<template>
  <PageFrame title="Open by its label" hint="Scan the code, or write the tag" back="/">
    <form class="panel bar" @submit.prevent="open(typed)">
      <label class="field"
        >Tag or code <input v-model="typed" autofocus maxlength="300" autocomplete="off" placeholder="LC-401" data-code-typed
      /></label>
      <button class="press lead" :disabled="busy" data-code-open>Open it</button>
      <ScanCode @code="open" />
    </form>
    <SaidWrong :lines="wrong" />
    <section v-if="(found?.trees?.length ?? 0) > 1" aria-live="polite">
      <p>{{ found!.trees!.length }} trees have the tag {{ found!.tag }}:</p>
      <ul class="rows">
        <li v-for="t in found!.trees" :key="t.id">
          <RouterLink class="press" :to="{ name: 'tree', params: { id: t.id } }">{{ t.tag }}, {{ t.stand }}, {{ t.tract }}</RouterLink>
        </li>
      </ul>
    </section>
    <p v-if="none" class="none" role="status" data-code-none>
      <template v-if="found!.tag">
        No tree has the tag {{ found!.tag }}{{ found!.tract ? ` in ${found!.tract}` : '' }} here.
        <RouterLink
          v-if="session.may('observer')"
          class="press lead"
          :to="{ path: '/', query: { begin: found!.tag, tract: found!.tract || undefined } }"
          data-code-begin
          >Start it</RouterLink
        >
      </template>
      <template v-else>
        This label’s tree is not in this book: it may not have come home yet, or not have been taken along. Write its tag instead.
      </template>
    </p>
  </PageFrame>
</template>

<style scoped>
.none {
  display: flex;
  flex-wrap: wrap;
  gap: 0.75rem;
  align-items: center;
}

.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.75rem;
  align-items: end;
}
</style>
