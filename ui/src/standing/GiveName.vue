<script setup lang="ts">
import AutoComplete from 'primevue/autocomplete'
import { useConfirm } from 'primevue/useconfirm'
import { computed, nextTick, ref } from 'vue'
import type { Schemas } from '../api/client'
import { useLate } from '../frame/late'
import { useVocabulary } from '../frame/vocabulary'
import { useSession } from '../frame/session'
import { useTree } from '../desk/tree'
import { capital, dayWords, percent } from '../frame/words'

type Option = Schemas['NameTerm']

const late = useLate()
const vocabulary = useVocabulary()
const session = useSession()
const tree = useTree()
const confirm = useConfirm()
const open = ref(false)
const choice = ref<Option | string | null>(null)
const why = ref('')
const found = ref<Option[]>([])
const wrong = ref('')
const seen = ref<'' | 'leaf' | 'flower' | 'fruit'>('')
const proof = (id: string | undefined) => vocabulary.words?.confirms?.find((c) => c.id === id)?.words

const options = computed(() => vocabulary.words?.names ?? [])
/** The name to write down: what the tree probably is, or what the evidence carries; none where it makes none probable. */
const offer = computed(() => {
  const r = tree.view?.result
  if (r?.probably.settled) return { ...r.probably, words: `probably ${r.probably.words}` }
  return r?.named.settled ? r.named : undefined
})

const last = computed(() => tree.view?.names?.[0])
/** The name that stands written down is the one that is offered, or better: it was confirmed. */
const carried = computed(
  () => last.value?.seen || (offer.value && last.value?.rank === offer.value.rank && last.value.name === offer.value.name),
)
/** The evidence speaks against the name that stands written down. */
const doubted = computed(() => tree.view?.step === 'not-yet')

function search(e: { query: string }) {
  if (late(e.query, choice.value)) return void (found.value = [])
  const q = e.query.toLowerCase()
  found.value = options.value.filter((o) => o.words.toLowerCase().includes(q)).slice(0, 40)
}

function start() {
  open.value = true
  seen.value = ''
  wrong.value = ''
  const first = last.value?.seen ? last.value : offer.value
  void nextTick(() => document.getElementById(first ? 'keep-name' : 'name-choice')?.focus())
  choice.value = options.value.find((o) => o.rank === first?.rank && o.name === first?.name) ?? null
}

function keep() {
  if (!choice.value || typeof choice.value === 'string') {
    wrong.value = 'Choose a name from the list; type part of it to find it.'
    document.getElementById('name-choice')?.focus()
    return
  }
  const { rank, name } = choice.value
  const write = () => {
    tree.giveName(rank, name, why.value.trim(), seen.value)
    why.value = ''
    done()
  }
  if (!last.value?.seen || seen.value) return write()
  confirm.require({
    header: `Replace ${last.value.words}?`,
    message: `It was ${proof(last.value.seen)}. That is surer than a winter’s look.`,
    acceptLabel: 'Replace it',
    rejectProps: { label: 'Keep it', severity: 'secondary', outlined: true },
    defaultFocus: 'reject',
    accept: write,
  })
}

function takeBack(entry: string) {
  tree.withdraw(entry)
  void nextTick(() => document.getElementById('write-name')?.focus())
}

function done() {
  open.value = false
  void nextTick(() => document.getElementById('write-name')?.focus())
}
</script>

<template>
  <section aria-label="Name written down">
    <h3>Written down</h3>
    <ol v-if="tree.view?.names?.length">
      <li v-for="(n, i) in tree.view.names" :key="n.at" :class="{ old: i > 0 }">
        <strong>{{ capital(i === 0 && tree.view.step === 'probably' ? `probably ${n.words}` : n.words) }}</strong>
        <span class="small soft">
          {{ dayWords(n.at) }}<template v-if="n.by">, {{ n.by }}</template
          ><template v-if="n.posterior">; stood at {{ percent(n.posterior) }} then</template
          ><template v-if="n.seen">; confirmed, {{ proof(n.seen) }}</template></span
        >
        <p v-if="n.why" class="small">{{ n.why }}</p>
        <button v-if="i === 0 && session.may('observer')" class="press quiet small" data-take-back @click="takeBack(n.entry)">
          Take this name back
        </button>
      </li>
    </ol>
    <p v-else class="small soft">No name yet.</p>
    <p v-if="tree.view?.doubt" class="small" :class="doubted ? 'doubt' : 'soft'" data-carried>{{ tree.view.doubt }}</p>
    <template v-if="!session.may('observer')"></template>
    <button v-else-if="!open" id="write-name" class="press" :class="{ write: !carried }" @click="start">
      <template v-if="carried">Correct the name</template>
      <template v-else-if="doubted && offer">Correct the name to {{ offer.words }}</template>
      <template v-else>Write down {{ offer?.words ?? 'a name' }}</template>
    </button>
    <form v-else @submit.prevent="keep" @keydown.escape="done">
      <label class="field"
        >Name
        <AutoComplete
          ref="list"
          v-model="choice"
          input-id="name-choice"
          :suggestions="found"
          option-label="words"
          dropdown
          fluid
          complete-on-focus
          :invalid="wrong !== ''"
          aria-describedby="name-wrong"
          @complete="search"
        />
      </label>
      <label class="field"
        >By
        <select v-model="seen" data-confirms>
          <option value="">winter’s look</option>
          <option v-for="c in vocabulary.words?.confirms" :key="c.id" :value="c.id">{{ c.words }}</option>
        </select>
      </label>
      <label class="field"
        >Why
        <textarea id="name-why" v-model="why" rows="2" maxlength="2000" placeholder="What decided it"></textarea>
      </label>
      <p v-if="wrong" id="name-wrong" class="wrong small" role="alert">{{ wrong }}</p>
      <div class="row">
        <button id="keep-name" class="press lead" type="submit">Write it down</button>
        <button class="press quiet" type="button" @click="done">Not now</button>
      </div>
    </form>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 0.5rem;
}

h3 {
  font-size: 1rem;
}

.doubt {
  padding: 0.25rem 0.5rem;
  border-radius: 6px;
  background: var(--pt-straw);
  color: var(--pt-straw-ink);
}

li strong {
  margin-right: 0.375rem;
}

.old strong {
  text-decoration: line-through;
  font-weight: 400;
}

form {
  display: grid;
  gap: 0.5rem;
}

.row {
  display: flex;
  gap: 0.5rem;
}

.lead,
.write {
  background: var(--pt-spruce);
  border-color: var(--pt-spruce);
  color: var(--pt-snow);
  font-weight: 600;
}
</style>
