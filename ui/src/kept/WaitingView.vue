<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import { computed } from 'vue'
import { decodeTime } from 'ulid'
import PageFrame from '../frame/PageFrame.vue'
import { saveAs } from '../frame/save'
import { useOutbox, type Waiting } from '../frame/outbox'
import { useSession } from '../frame/session'
import { useVocabulary } from '../frame/vocabulary'
import { dayWords, clock, entries } from '../frame/words'
import { entryWords } from './words'

const outbox = useOutbox()
const session = useSession()
const vocabulary = useVocabulary()
const confirm = useConfirm()

const groups = computed(() =>
  [
    { id: 'waiting', title: 'To be sent', items: outbox.waiting },
    { id: 'refused', title: 'Not taken by the book', items: outbox.refused },
    { id: 'others', title: 'Kept for somebody else', items: outbox.others },
  ].filter((g) => g.items.length),
)
const nameless = computed(() => outbox.others.filter((w) => !w.entry.by).length)
const made = (w: Waiting) => {
  const at = new Date(decodeTime(w.entry.id)).toISOString()
  return `${dayWords(at)}, ${clock(at)}`
}

/** The entries as the book takes them, to be kept elsewhere. */
function save() {
  const body = JSON.stringify(
    outbox.items.map((w) => ({ tree: w.tree, tag: w.tag, seen: w.seen, entry: w.entry })),
    null,
    2,
  )
  saveAs(new Blob([body], { type: 'application/json' }), 'entries-kept-here.json')
}

function drop(w: Waiting) {
  confirm.require({
    header: 'Throw this entry away?',
    message: `${entryWords(w.entry, vocabulary)}, on ${w.tag || 'a tree'}: the book does not have it, and then it is nowhere.`,
    acceptLabel: 'Throw it away',
    rejectProps: { label: 'Keep it', severity: 'secondary', outlined: true },
    defaultFocus: 'reject',
    accept: () => outbox.drop(w.entry.id),
  })
}
</script>

<template>
  <PageFrame title="Kept on this device" hint="What was entered here and is not in the book yet">
    <template #actions>
      <span class="row">
        <button v-if="outbox.waiting.length" class="press lead" data-send @click="outbox.resume()">Send now</button>
        <button v-if="outbox.items.length" class="press" @click="save">Save as a file (JSON)</button>
      </span>
    </template>
    <p v-if="!groups.length">Nothing: everything that was entered on this device is in the book.</p>
    <section v-for="g in groups" :key="g.id" :aria-label="g.title">
      <h2>{{ g.title }}: {{ entries(g.items.length) }}</h2>
      <p v-if="g.id === 'others'" class="soft">
        They wait for whoever made them to sign in here; nobody else's name is put on them.
        <button v-if="nameless" class="press" @click="outbox.claim()">The {{ nameless }} without a name are mine: send them</button>
      </p>
      <ul class="rows">
        <li v-for="w in g.items" :key="w.entry.id" :data-entry="w.entry.kind">
          <RouterLink :to="{ name: 'tree', params: { id: w.tree } }">{{ w.tag || 'its tree' }}</RouterLink>
          <span>
            <span>{{ entryWords(w.entry, vocabulary) }}</span>
            <span class="small soft">{{ [made(w), w.entry.by].filter(Boolean).join(' · ') }}</span>
            <span v-for="l in w.refused ?? w.stumbled" :key="l" class="small wrong">{{ l }}</span>
          </span>
          <span class="row">
            <button v-if="w.refused" class="press" @click="outbox.sendAgain(w.entry.id)">Send again</button>
            <button v-if="w.refused && (!session.session?.needed || w.entry.by === session.name)" class="press quiet" @click="drop(w)">
              Throw away
            </button>
          </span>
        </li>
      </ul>
    </section>
  </PageFrame>
</template>

<style scoped>
section {
  display: grid;
  gap: 0.5rem;
}

h2 {
  font-size: 1.125rem;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

li {
  display: grid;
  grid-template-columns: 7rem minmax(0, 1fr) auto;
  gap: 0.25rem 1rem;
  align-items: center;
  padding: 0.5rem 1rem;
}

li > span:nth-child(2) {
  display: grid;
}

li > a {
  align-content: center;
  min-height: var(--pt-press);
  font-weight: 700;
}

@media (max-width: 700px) {
  li {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
