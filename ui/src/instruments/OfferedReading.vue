<script setup lang="ts">
import { computed, onMounted, onUnmounted } from 'vue'
import { useInstruments, type Reading } from './instruments'

/** What an instrument has just read, offered where it fits; it is taken by pressing it, never by itself. */
const props = defineProps<{ kinds: Reading['kind'][]; angle?: boolean; words?: string }>()
const emit = defineEmits<{ take: [r: Reading] }>()
const instruments = useInstruments()
let leave = () => {}
onMounted(() => (leave = instruments.use()))
onUnmounted(() => leave())
const offered = computed(() => instruments.readings.filter((r) => props.kinds.includes(r.kind) && (!props.angle || r.angle)))

function take(r: Reading) {
  instruments.took(r)
  emit('take', r)
}
</script>

<template>
  <span v-if="offered.length" class="offered">
    <button
      v-for="r in offered"
      :key="r.serial"
      type="button"
      class="press"
      data-take
      :aria-label="`Take ${angle ? r.angle : r.text} from ${r.instrument}`"
      @click="take(r)"
    >
      {{ r.instrument }}: {{ angle ? r.angle : r.text }} · <strong>take</strong>{{ words ? ` ${words}` : '' }}
    </button>
  </span>
</template>

<style scoped>
.offered {
  display: flex;
  flex-wrap: wrap;
  gap: 0.375rem;
}

.press {
  font-variant-numeric: tabular-nums;
  border-style: dashed;
}
</style>
