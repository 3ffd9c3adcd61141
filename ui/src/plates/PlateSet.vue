<script setup lang="ts">
import type { Schemas } from '../api/client'
import { plateAddress, scoredAddress, useDrawings, type What } from './addresses'
import PlateImage from './PlateImage.vue'

/** Twig, outline and bark of a taxon, or of a tree as it was scored. */
const props = defineProps<{
  taxon?: string
  tree?: string
  last?: string
  region?: string
  age?: string
  zone?: string
  odd?: number
  says: Schemas['PlateSays']
  marked?: string[]
}>()
const { digest, theme } = useDrawings()

const address = (what: What) => (theme: string) =>
  props.tree
    ? scoredAddress(props.tree, what, props.last ?? '', theme, props.marked)
    : plateAddress({ ...props, what, taxon: props.taxon ?? '' }, digest.value, theme)
const odd = (sections: string[]) => props.marked?.some((m) => sections.some((s) => m.startsWith(s)))
</script>

<template>
  <figure>
    <figcaption><slot /></figcaption>
    <div class="set">
      <PlateImage class="twig" :address="address('twig')" :theme="theme" :says="says.twig" />
      <PlateImage :class="{ odd: odd(['form.']) }" :address="address('outline')" :theme="theme" :says="says.outline" />
      <PlateImage class="bark" :class="{ odd: odd(['bark.']) }" :address="address('bark')" :theme="theme" :says="says.bark" />
    </div>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}

figcaption {
  font-weight: 600;
  margin-bottom: 0.25rem;
}

.set {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 4fr);
  grid-template-rows: minmax(0, 1fr) minmax(0, 1fr);
  gap: 0.5rem;
  align-items: center;
}

.set :deep(img) {
  aspect-ratio: 84 / 112;
}

.set .twig {
  grid-row: 1 / 3;
  align-self: stretch;
}

.set .twig :deep(img) {
  aspect-ratio: 80 / 150;
}

.set .bark :deep(img) {
  aspect-ratio: 400 / 520;
}

.odd {
  outline: 3px solid var(--pt-sumac);
  outline-offset: 2px;
  border-radius: 4px;
}
</style>
