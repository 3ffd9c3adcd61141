<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref } from 'vue'
import { useInstruments, type Reading } from './instruments'

/** What an instrument has just read, offered where it fits; it is taken by pressing it, never by itself. */
const props = defineProps<{ kinds: Reading['kind'][]; angle?: boolean; level?: boolean; words?: string }>()
const emit = defineEmits<{ take: [r: Reading] }>()
const instruments = useInstruments()
let leave = () => {}
onMounted(() => (leave = instruments.use()))
onUnmounted(() => leave())
const offered = computed(() => instruments.readings.filter((r) => props.kinds.includes(r.kind) && (!props.angle || r.angle)))

/** What of it is taken: the angle alone; a range with its angle, where it is brought to the level; or what was read. */
const says = (r: Reading) => (props.angle ? r.angle : props.level && r.angle ? `${r.text} at ${r.angle}` : r.text)
const missed = ref('')
async function take(r: Reading) {
  missed.value = ''
  if (await instruments.took(r)) emit('take', r)
  else missed.value = `${r.text} was taken by somebody else: read again.`
}
</script>

<template>
  <span v-if="missed" class="wrong small" role="alert">{{ missed }}</span>
  <span v-if="offered.length" class="offered">
    <button
      v-for="r in offered"
      :key="r.serial"
      type="button"
      class="press"
      data-take
      :aria-label="`Take ${says(r)} from ${r.instrument}`"
      @click="take(r)"
    >
      {{ r.instrument }}: {{ says(r) }} · <strong>take</strong>{{ words ? ` ${words}` : '' }}
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
