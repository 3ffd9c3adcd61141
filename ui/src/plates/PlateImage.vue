<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { ref } from 'vue'

/** A drawing; pressed, it fills the screen. On paper it is plain black. */
defineProps<{ address: (theme: string) => string; theme: string; says: string; still?: boolean }>()
const large = ref(false)
const lost = ref(false)
</script>

<template>
  <div class="drawing">
    <p v-if="lost" class="soft small">This drawing did not come. <button class="press quiet" @click="lost = false">Again</button></p>
    <img v-else-if="still" :src="address(theme)" :alt="says" loading="lazy" decoding="async" @error="lost = true" />
    <button v-else class="plate" title="Enlarge" @click="large = true">
      <picture
        ><source media="print" :srcset="address('paper')" />
        <img :src="address(theme)" :alt="says" loading="lazy" decoding="async" @error="lost = true" />
      </picture>
    </button>
    <Dialog v-if="large" :visible="true" modal dismissable-mask :header="says.split(':')[0]" class="whole" @update:visible="large = false">
      <img class="large" :src="address(theme)" :alt="says" data-large />
    </Dialog>
  </div>
</template>

<style scoped>
.drawing {
  min-width: 0;
}

.plate {
  display: block;
  height: 100%;
  min-height: var(--pt-press);
  width: 100%;
  border: 0;
  padding: 0;
  background: none;
  cursor: zoom-in;
}

img {
  display: block;
  width: 100%;
  height: 100%;
  object-fit: contain;
}

picture {
  display: block;
  height: 100%;
}

.large {
  width: min(94vw, 70rem);
  height: calc(94vh - 7rem);
}
</style>
