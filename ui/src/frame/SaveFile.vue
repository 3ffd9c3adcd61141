<script setup lang="ts">
import { isAway } from '../woods/device'
import { useSaving } from './saving'

/** A file to be saved. At home the browser fetches it; on a device the book there makes it, whatever was entered there since. */
defineOptions({ inheritAttrs: false })
defineProps<{ href: string; name: string }>()
const { making, wrong, make } = useSaving()
</script>

<template>
  <a v-if="!isAway()" v-bind="$attrs" class="press" :href="href" :download="name"><slot /></a>
  <button v-else v-bind="$attrs" type="button" class="press" :disabled="!!making" @click="make(href, name)"><slot /></button>
  <span v-if="making" class="sr-only" role="status">Making {{ name }}…</span>
  <span v-if="wrong" class="wrong small" role="alert">{{ wrong }}</span>
</template>
