<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { useFlora } from '../flora/flora'
import { plateAddress, stateAddress, useDrawings, type What } from '../plates/addresses'
import PlateImage from '../plates/PlateImage.vue'

/** What a card shows; once it was answered, beside what it is and what it was taken for. */
const props = defineProps<{ card: Schemas['Card']; verdict: Schemas['CardVerdict'] | null; pictures: string[] }>()
const flora = useFlora()
const { digest, theme } = useDrawings()
const pair = computed(() => props.card.kind === 'pair')
const shownAs = computed<What>(() => (props.card.part === 'ground' ? 'leaf' : (props.card.part as What)))
const usual = (taxon: string) => (t: string) =>
  plateAddress(
    { what: shownAs.value, taxon, region: flora.among.region, age: props.verdict?.age, marked: props.verdict?.marked ?? [] },
    digest.value,
    t,
  )
const state = (id: string) => (t: string) => stateAddress(props.verdict?.word ?? '', id, digest.value, t)
const beside = computed(() => {
  const v = props.verdict
  if (!v) return []
  if (v.kind === 'word')
    return [
      { id: v.state, at: state(v.state), words: v.english },
      ...(v.other ? [{ id: v.other, at: state(v.other), words: v.other_is }] : []),
    ]
  return [
    { id: v.taxon, at: usual(v.taxon), words: `The usual ${v.english}` },
    ...(v.other ? [{ id: v.other, at: usual(v.other), words: `The usual ${v.other_is}` }] : []),
  ]
})
const called = (i: number) => {
  const v = props.verdict
  if (!v) return pair.value ? String(i + 1) : ''
  if (!pair.value) return 'This one'
  return `${i + 1}: ${i ? v.other_is : v.english}`
}
</script>

<template>
  <div class="pictures" :class="{ word: card.kind === 'word' }">
    <div v-for="(p, i) in pictures" :key="p" class="shown" :class="{ dim: card.dim && !verdict }">
      <PlateImage
        :address="() => p"
        :theme="theme"
        :says="verdict ? called(i) : pair ? `Drawing ${i + 1} of two to be told apart` : 'A drawing to be named'"
      />
      <figcaption v-if="called(i)" class="small">{{ called(i) }}</figcaption>
    </div>
    <div v-for="b in beside" :key="b.id" class="shown">
      <PlateImage :address="b.at" :theme="theme" :says="b.words" />
      <figcaption class="small">{{ b.words }}</figcaption>
    </div>
  </div>
</template>

<style scoped>
.pictures {
  display: flex;
  flex-wrap: wrap;
  gap: 0.75rem;
}

.shown {
  flex: 1 1 7rem;
  min-width: 0;
  max-width: 22rem;
}

.dim :deep(img) {
  filter: brightness(0.55) contrast(0.8) saturate(0.4);
}

.word .shown {
  max-width: 15rem;
}

.shown :deep(img) {
  max-height: 60vh;
}

@media (max-width: 760px) {
  .shown :deep(img) {
    max-height: 38vh;
  }
}
</style>
