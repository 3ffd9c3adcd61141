<script setup lang="ts">
import { ulid } from 'ulid'
import { onMounted } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../api/client'
import { useAsk } from '../frame/ask'
import PageFrame from '../frame/PageFrame.vue'
import SaidWrong from '../frame/SaidWrong.vue'

/** Starts the next tree, and opens it to be scored: whoever only wants a name is asked nothing first. */
const router = useRouter()
const { wrong, ask } = useAsk()
const id = ulid() // of every try: a lost answer starts no second tree

async function start() {
  const { data } = await ask(api.POST('/api/trees/next', { body: { id } }))
  if (data) await router.replace({ name: 'tree', params: { id: data.tree.id }, query: { filed: 'new' } })
}
onMounted(start)
</script>

<template>
  <PageFrame title="Name a tree">
    <SaidWrong v-if="wrong.length" :lines="wrong" again @again="start" />
    <p v-else role="status">Starting the next tree…</p>
  </PageFrame>
</template>
