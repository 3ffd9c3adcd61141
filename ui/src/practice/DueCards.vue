<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api } from '../api/client'
import { useSession } from '../frame/session'
import { count } from '../frame/words'
import { isAway } from '../woods/device'

/** A quiet line where cards are due. */
const due = ref(0)
const session = useSession()
onMounted(async () => {
  if (isAway()) return
  const { data } = await api
    .GET('/api/practice/due', { params: { query: session.name ? { by: session.name } : {} } })
    .catch(() => ({ data: 0 }))
  due.value = data ?? 0
})
</script>

<template>
  <p v-if="due" class="soft small" data-due-line>
    {{ count(due, 'card') }} {{ due === 1 ? 'is' : 'are' }} due in <RouterLink to="/practice">Practice</RouterLink>.
  </p>
</template>
