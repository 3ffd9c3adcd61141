<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { computed, onMounted } from 'vue'
import PageFrame from '../frame/PageFrame.vue'
import { useAway } from './away'
import HowItStands from './HowItStands.vue'
import TakeAlong from './TakeAlong.vue'

const away = useAway()
onMounted(() => {
  void away.look()
  void away.measure()
})
useIntervalFn(() => void away.look(), 2000) // who looks here wants to see it go on
const hint = computed(() =>
  away.on ? 'This device works on its own book, and meets home when it can' : 'Take trees along where there is no signal',
)
</script>

<template>
  <PageFrame title="Offline" :hint="hint">
    <HowItStands v-if="away.on" />
    <TakeAlong />
  </PageFrame>
</template>
