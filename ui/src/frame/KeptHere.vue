<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, onMounted } from 'vue'
import { useRoute } from 'vue-router'
import { noConnection } from './ask'
import { useOutbox } from './outbox'
import { useSession } from './session'
import { entries } from './words'
import { useAway } from '../woods/away'

/** Says on every page what is kept on this device and not yet in the book. */
const outbox = useOutbox()
const session = useSession()
const away = useAway()
onMounted(async () => {
  void away.look()
  await outbox.recall()
  void outbox.flush()
})

/** A press that is answered at once is not worth saying. */
const here = refDebounced(
  computed(() => outbox.waiting.length),
  1500,
)
const says = computed(() => {
  const parts: string[] = []
  const n = outbox.waiting.length
  if (outbox.full) parts.push('This browser has no room to keep more: leave this page open until everything is sent.')
  if (outbox.offline) parts.push(noConnection)
  if (n && (here.value || outbox.offline)) parts.push(`${entries(n)} ${outbox.unsaved ? 'being saved…' : 'kept here, to be sent.'}`)
  if (outbox.refused.length) parts.push(`${entries(outbox.refused.length)} not taken by the book.`)
  if (outbox.others.length && session.ready) parts.push(`${entries(outbox.others.length)} kept here for somebody else.`)
  if (away.status?.refused?.length) parts.push(`${entries(away.status.refused.length)} not taken at home.`)
  return parts.join(' ')
})

/** In the woods that is so all day: it takes one line, and none where it is said anyway. */
const route = useRoute()
const toTell = computed(() => (away.count && route.name !== 'woods' ? `${entries(away.count)} not home yet` : ''))
</script>

<template>
  <RouterLink v-if="toTell" class="tell small" data-kept to="/woods"><i class="pi pi-home" aria-hidden="true"></i> {{ toTell }}</RouterLink>
  <p v-if="says" class="kept" role="status">
    <span><i class="pi pi-inbox" aria-hidden="true"></i> {{ says }}</span>
    <RouterLink class="press" data-kept :to="outbox.items.length ? '/waiting' : '/woods'">Look at them</RouterLink>
  </p>
</template>

<style scoped>
.tell {
  display: block;
  padding: 0.125rem 0.75rem;
  line-height: 1.6;
  min-height: 2.75rem;
  align-content: center;
  color: var(--pt-soft);
}

.kept {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 0.75rem;
  align-items: center;
  justify-content: space-between;
  padding: 0.25rem 0.75rem;
  border-radius: 8px;
  background: var(--pt-straw);
  color: var(--pt-straw-ink);
}

.press {
  background: transparent;
  border-color: currentcolor;
}
</style>
