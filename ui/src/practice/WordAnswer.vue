<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import type { Sure } from './practice'
import SureBar from './SureBar.vue'

/** Says which state a part is: one press. */
defineProps<{ card: Schemas['Card']; busy: boolean }>()
const emit = defineEmits<{ say: [answer: Partial<Schemas['CardAnswer']>] }>()
const sure = defineModel<Sure>('sure', { required: true })
const means = ref('')
</script>

<template>
  <form @submit.prevent>
    <h2>{{ card.asks }}</h2>
    <SureBar v-model="sure" />
    <div class="states" role="group" aria-label="States">
      <button
        v-for="(o, i) in card.options"
        :id="i ? undefined : 'practice-first'"
        :key="o.id"
        type="button"
        class="press"
        :data-state="o.id"
        :disabled="busy"
        :aria-description="o.means"
        @mouseenter="means = o.means"
        @focus="means = o.means"
        @click="emit('say', { state: o.id, sure })"
      >
        {{ o.words }}
      </button>
    </div>
    <p class="small soft means">{{ means }}</p>
    <button type="button" class="press" data-unknown :disabled="busy" @click="emit('say', {})">I do not know</button>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 0.75rem;
  justify-items: start;
}

.states {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(8.5rem, 1fr));
  gap: 0.375rem;
  width: 100%;
}

.means {
  min-height: 2.6em;
}
</style>
