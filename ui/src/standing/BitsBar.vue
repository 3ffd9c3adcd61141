<script setup lang="ts">
import { computed } from 'vue'
import { times } from '../frame/words'

const props = defineProps<{ bits: number; label: string; a: string; b: string; strong?: boolean }>()

/** Ten bits fill half the bar; beyond that there is nothing to tell. */
const width = computed(() => `${(Math.min(Math.abs(props.bits), 10) / 10) * 50}%`)
const side = computed(() => (props.bits >= 0 ? 'for' : 'against'))
const words = computed(() => {
  const b = Math.abs(props.bits)
  if (b < 0.5) return 'even'
  return `${times(b)} likelier if ${props.bits > 0 ? props.a : props.b}`
})
</script>

<template>
  <div class="row" :class="{ strong }">
    <span class="label">{{ label }}</span>
    <span class="track" aria-hidden="true"><span class="bar" :class="side" :style="{ width }"></span></span>
    <span class="small soft words">{{ words }}</span>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 10rem 1fr 14rem;
  gap: 0.75rem;
  align-items: center;
  min-height: 28px;
}

.strong .label {
  font-weight: 700;
}

.row:not(.strong) .label {
  padding-left: 0.75rem;
}

.track {
  position: relative;
  height: 12px;
  border-radius: 3px;
  background: linear-gradient(var(--pt-soft), var(--pt-soft)) center / 1px 100% no-repeat;
}

.bar {
  position: absolute;
  top: 0;
  bottom: 0;
  border-radius: 3px;
}

.for {
  left: 50%;
  background: var(--pt-spruce);
}

.against {
  right: 50%;
  background: var(--pt-sumac);
}

@media (max-width: 700px) {
  .row {
    grid-template-columns: 1fr 1fr;
  }

  .words {
    grid-column: 1 / 3;
  }
}
</style>
