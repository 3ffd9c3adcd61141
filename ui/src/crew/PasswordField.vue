<script setup lang="ts">
import Password from 'primevue/password'

const props = defineProps<{ id: string; kind: 'new-password' | 'current-password'; minlength?: number }>()
const value = defineModel<string>({ required: true })
/** No list opens under it, so it does not say that one is shut. */
const input = {
  required: true,
  maxlength: 200,
  minlength: props.minlength,
  autocomplete: props.kind,
  'aria-expanded': undefined,
  'aria-haspopup': undefined,
}
</script>

<template>
  <Password v-model="value" :input-id="id" :feedback="false" toggle-mask fluid :input-props="input" />
</template>
