<script setup lang="ts">
import { api } from '../api/client'
import { useAsk } from '../frame/ask'
import { useSettings } from '../frame/settings'
import SecondRanking from './SecondRanking.vue'
import { useWhenOn } from './whenOn'

/** As the stand's own record would have it: by itself the standing knows nothing of the stand's other trees. */
const props = defineProps<{ tree: string; scored: string }>()
const settings = useSettings()
const { ask } = useAsk()
const here = useWhenOn(
  () => settings.here,
  () => props.tree + props.scored,
  async () => (await ask(api.GET('/api/trees/{id}/here', { params: { path: { id: props.tree } } }))).data,
)
</script>

<template>
  <SecondRanking
    v-model="settings.here"
    name="here"
    title="As this stand's record would have it"
    words="Expect what the rest of the stand is"
    :ranking="here?.trees ? (here.ranking ?? []) : []"
    :means="`With ${here?.trees} other trees of the stand as what to expect`"
    :note="here?.note ?? ''"
  >
    <p v-if="here && !here.trees" class="small soft">No other tree of the stand has been scored yet.</p>
  </SecondRanking>
</template>
