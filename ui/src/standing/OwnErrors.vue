<script setup lang="ts">
import { api } from '../api/client'
import { useAsk } from '../frame/ask'
import { useSettings } from '../frame/settings'
import { percent } from '../frame/words'
import SecondRanking from './SecondRanking.vue'
import { useWhenOn } from './whenOn'

/** Beside the usual standing: as it would be with what the tree's observers misread in practice. */
const props = defineProps<{ tree: string; scored: string }>()
const settings = useSettings()
const { ask } = useAsk()
const own = useWhenOn(
  () => settings.ownErrors,
  () => props.tree + props.scored,
  async () => (await ask(api.GET('/api/trees/{id}/own-errors', { params: { path: { id: props.tree } } }))).data,
)
</script>

<template>
  <SecondRanking
    v-model="settings.ownErrors"
    name="own-errors"
    title="With the observers’ own errors"
    words="Take the observers’ own errors"
    :ranking="own?.observers?.length ? (own.ranking ?? []) : []"
    means="With their own errors"
    :note="own?.note ?? ''"
  >
    <p v-if="own && !own.observers?.length" class="small soft">Nobody who scored this tree has practised enough words, or shares it.</p>
    <p v-for="c in own?.changes" :key="c" class="small">{{ c }}</p>
    <template #after>
      <p v-for="o in own?.observers" :key="o.name" class="small soft">
        {{ o.name }} misreads {{ percent(o.sure) }} of “sure”, {{ percent(o.fair) }} of “fair” and {{ percent(o.guess) }} of guesses, by
        {{ o.answers }} answers.
      </p>
    </template>
  </SecondRanking>
</template>
