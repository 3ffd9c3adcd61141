<script setup lang="ts">
import type { Shows } from './shows'
import BarkSwatch from './BarkSwatch.vue'
import OutlinePlate from './OutlinePlate.vue'
import TwigPlate from './TwigPlate.vue'

defineProps<{ shows: Shows; title: string; marked?: string[] }>()
</script>

<template>
  <figure>
    <figcaption>
      <slot>{{ title }}</slot>
    </figcaption>
    <div class="set">
      <TwigPlate class="twig" :shows="shows" :marked="marked" :label="`Twig of ${title}`" />
      <OutlinePlate :shows="shows" :marked="marked" :label="`Outline of ${title}`" />
      <BarkSwatch :shows="shows" :marked="marked" :label="`Bark of ${title}`" />
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
  grid-template-columns: 2fr 1fr;
  grid-template-rows: 1fr 1fr;
  gap: 0.5rem;
  align-items: center;
}

.twig {
  grid-row: 1 / 3;
}
</style>
