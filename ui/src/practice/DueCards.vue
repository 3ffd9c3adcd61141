<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { count } from '../frame/words'
import { usePractice } from './practice'

/** A quiet line where cards are due. */
const due = ref(0)
const practice = usePractice()
onMounted(async () => {
  due.value = await practice.due()
})
</script>

<template>
  <p v-if="due" class="soft small" data-due-line>
    {{ count(due, 'card') }} {{ due === 1 ? 'is' : 'are' }} due in <RouterLink to="/practice">Practice</RouterLink>.
  </p>
</template>
