<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { capital } from '../frame/words'
import type { Sure } from './practice'
import SureBar from './SureBar.vue'

/** Says which of two look-alikes is the first that is shown, and by what one tells. */
const props = defineProps<{ card: Schemas['Card']; busy: boolean }>()
const emit = defineEmits<{ say: [answer: Partial<Schemas['CardAnswer']>] }>()
const sure = defineModel<Sure>('sure', { required: true })
const first = ref('')
const by = ref('')
const second = computed(() => props.card.pair?.find((p) => p.name !== first.value))
</script>

<template>
  <form @submit.prevent="emit('say', { first, by, sure })">
    <h2>{{ card.asks }}</h2>
    <div class="bar" role="group" aria-label="The first is">
      <span>1 is</span>
      <button
        v-for="(p, i) in card.pair"
        :id="i ? undefined : 'practice-first'"
        :key="p.name"
        type="button"
        class="press"
        :aria-pressed="first === p.name"
        :data-first="p.name"
        @click="first = p.name"
      >
        {{ capital(p.english) }}
      </button>
      <span v-if="first && second" class="soft">so 2 is {{ second.english }}</span>
    </div>
    <label class="field"
      >By what one tells
      <select v-model="by" data-by>
        <option value="">choose</option>
        <option v-for="o in card.options" :key="o.id" :value="o.id">{{ o.words }}</option>
      </select>
    </label>
    <SureBar v-model="sure" />
    <div class="bar">
      <button class="press lead" data-say :disabled="busy || !first">Say it</button>
      <button type="button" class="press" data-unknown :disabled="busy" @click="emit('say', {})">I do not know</button>
    </div>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 0.75rem;
}

.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
}
</style>
