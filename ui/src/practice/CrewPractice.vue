<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import PageFrame from '../frame/PageFrame.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import PracticeFigures from './PracticeFigures.vue'

/** The practice of those who share it, for a lead. */
const people = ref<Schemas['PracticeOf'][]>([])
const loaded = ref(false)
const { wrong, ask } = useAsk()
onMounted(async () => {
  const { data } = await ask(api.GET('/api/practice/shared'))
  people.value = data ?? []
  loaded.value = true
})
</script>

<template>
  <PageFrame title="The crew’s practice" hint="Of those who share it; what the others practise is their own" back="/practice">
    <SaidWrong :lines="wrong" />
    <p v-if="loaded && !people.length && !wrong.length" class="panel">
      Nobody shares their practice. Each does so, or not, under their own figures.
    </p>
    <PracticeFigures v-for="p in people" :key="p.name" :figures="p" :whose="p.name" />
  </PageFrame>
</template>
