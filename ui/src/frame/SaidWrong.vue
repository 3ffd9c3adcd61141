<script setup lang="ts">
import Message from 'primevue/message'

/** What was wrong, in lines; with again, a press that tries once more; with yes, one that says it was meant. */
defineProps<{ lines: string[]; again?: boolean; yes?: string; yesId?: string }>()
defineEmits<{ again: []; yes: [] }>()
</script>

<template>
  <Message v-if="lines.length" severity="error" class="said">
    <ul>
      <li v-for="l in lines" :key="l">{{ l }}</li>
    </ul>
    <button v-if="yes" :id="yesId" type="button" class="press" data-yes @click="$emit('yes')">{{ yes }}</button>
    <button v-if="again" type="button" class="press" @click="$emit('again')">Try again</button>
  </Message>
</template>

<style scoped>
.said :deep(.p-message-text) {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 1rem;
  align-items: center;
}
</style>
