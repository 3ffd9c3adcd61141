<script setup lang="ts">
import { computed } from 'vue'
import { useVocabulary } from '../frame/vocabulary'
import { stateAddress, useDrawings } from './addresses'

/** A state as the drawings show it; its name stands beside it, so that it says nothing itself. */
const props = defineProps<{ character: string; state: string }>()
const vocabulary = useVocabulary()
const { digest, theme } = useDrawings()
const drawn = computed(() => {
  const c = vocabulary.characters.get(props.character)
  return c?.kind === 'sign' ? c.drawn && props.state === 'seen' : c?.states?.some((s) => s.id === props.state && s.drawn)
})
</script>

<template>
  <img
    v-if="drawn"
    :class="{ chip: character.endsWith('color') }"
    :src="stateAddress(character, state, digest, theme)"
    alt=""
    loading="lazy"
    decoding="async"
  />
</template>

<style scoped>
img {
  width: 56px;
  height: 56px;
  flex: none;
  border-radius: 5px;
  object-fit: cover;
}

.chip {
  width: 32px;
  height: 32px;
  border: 1px solid var(--pt-line);
}
</style>
