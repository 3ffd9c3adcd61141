<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { useRefocus } from '../frame/refocus'
import { shortcuts } from './keys'

defineEmits<{ close: [] }>()
useRefocus()
</script>

<template>
  <Dialog :visible="true" modal header="Keys" :style="{ width: '34rem', maxWidth: '96vw' }" @update:visible="$emit('close')">
    <dl>
      <div v-for="s in shortcuts" :key="s.keys">
        <dt>
          <kbd>{{ s.keys }}</kbd>
        </dt>
        <dd>{{ s.does }}</dd>
      </div>
    </dl>
    <p class="soft small">
      Tab and Enter reach everything; Escape closes. A second press of a state makes it less certain: sure, fair, guess.
    </p>
  </Dialog>
</template>

<style scoped>
dl {
  margin: 0 0 0.75rem;
}

dl > div {
  display: grid;
  grid-template-columns: 7rem 1fr;
  padding: 0.25rem 0;
  border-bottom: 1px solid var(--pt-line);
}

dd {
  margin: 0;
}

kbd {
  font-family: inherit;
  font-weight: 600;
}
</style>
