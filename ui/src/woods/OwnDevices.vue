<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { clock, count, dayWords } from '../frame/words'

/** What home last heard of one's devices: a browser that cleared its data does not know that it was one of them. */
const props = defineProps<{ devices: Schemas['Device'][] }>()
const holding = computed(() => props.devices.filter((d) => !d.ended && d.holds))
</script>

<template>
  <p v-for="d in holding" :key="d.id" class="wrong" data-held>
    {{ d.name }} last met home {{ dayWords(d.met) }} at {{ clock(d.met) }}, and had {{ count(d.holds, 'entry', 'entries') }} that are not
    home. If it was this browser, it removed what it kept: enter them again.
  </p>
</template>
