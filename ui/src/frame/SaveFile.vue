<script setup lang="ts">
import { ref } from 'vue'
import { problemLines } from '../api/client'
import { askDevice, isAway } from '../woods/device'
import { saveAs } from './save'

/**
 * A file to be saved. At home the browser fetches it; on a device the book there makes it, as a browser asks home for what
 * it saves, whatever was entered here since.
 */
defineOptions({ inheritAttrs: false })
const props = defineProps<{ href: string; name: string }>()
const making = ref(false)
const wrong = ref('')

async function make() {
  making.value = true
  wrong.value = ''
  try {
    const answer = await askDevice(new Request(new URL(props.href, location.origin)))
    if (answer.ok) saveAs(await answer.blob(), props.name)
    else wrong.value = problemLines(await answer.json()).join(' ')
  } catch (e) {
    wrong.value = e instanceof Error ? e.message : String(e)
  } finally {
    making.value = false
  }
}
</script>

<template>
  <a v-if="!isAway()" v-bind="$attrs" class="press" :href="href" :download="name"><slot /></a>
  <button v-else v-bind="$attrs" type="button" class="press" :disabled="making" @click="make"><slot /></button>
  <span v-if="making" class="sr-only" role="status">Making {{ name }}…</span>
  <span v-if="wrong" class="wrong small" role="alert">{{ wrong }}</span>
</template>
