<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import PageFrame from '../frame/PageFrame.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { useVocabulary } from '../frame/vocabulary'
import { capital } from '../frame/words'
import PlaceFields from '../trees/PlaceFields.vue'
import SheetChoice from './SheetChoice.vue'
import { means, struck, useSheet, type Row } from './sheet'

/** Keys in what was written on tally sheets: a tag, then a letter for each row. */
const s = useSheet()
const { sheet, rows, draft, where } = s
const vocabulary = useVocabulary()
const wrong = ref<Record<string, string>>({})
const tagField = ref<HTMLInputElement>()
onMounted(s.read)
watch(s.asked, () => void s.read(), { deep: true })

const sections = computed(() => {
  const out: { id: string; words: string; rows: Row[] }[] = []
  for (const r of rows.value) {
    if (out.at(-1)?.id !== r.section) out.push({ id: r.section, words: vocabulary.sections.get(r.section)?.words ?? r.section, rows: [] })
    out.at(-1)!.rows.push(r)
  }
  return out
})

const field = (i: number) => document.getElementById(`row-${i}`) as HTMLInputElement | null
function go(i: number) {
  if (i < 0) return tagField.value?.focus()
  if (i >= rows.value.length) return document.getElementById('sheet-keep')?.focus()
  field(i)?.focus()
  field(i)?.select()
}

function move(i: number, row: Row, e: KeyboardEvent) {
  if (e.ctrlKey || e.metaKey || e.altKey) return e.key === 'Enter' ? keep() : undefined
  const moves: Record<string, number> = { Enter: i + 1, ArrowDown: i + 1, ArrowUp: i - 1 }
  if (e.key in moves) {
    e.preventDefault()
    return go(moves[e.key]!)
  }
  if (e.key === 'Backspace' && !draft.value.written[row.character]) {
    e.preventDefault()
    if (wrong.value[row.character])
      wrong.value[row.character] = '' // it takes the wrong letter back, and the hand stays
    else go(i - 1)
  }
}

/** A letter, from keys or from glass: what a screen's keyboard writes comes as no key. */
function strike(i: number, row: Row, e: InputEvent) {
  if (e.inputType !== 'insertText' || !e.data) return
  const before = rows.value[i - 1]
  if (e.data === '+' && !draft.value.written[row.character] && before && before.kind !== 'numeric') {
    e.preventDefault() // meant for the row that was just answered
    draft.value.written[before.character] += '+'
    return go(i - 1)
  }
  const did = struck(row, draft.value.written[row.character] ?? '', e.data)
  if (!did) return
  e.preventDefault()
  wrong.value[row.character] = 'wrong' in did ? did.wrong : ''
  if ('wrong' in did) return
  draft.value.written[row.character] = did.written
  if (did.go === 'on') go(i + 1)
}

/** What the book asked about this tree, and was told that it is meant. */
const meant = ref<{ new?: true; again?: true }>({})
function yes() {
  meant.value = { ...meant.value, [s.sending.asked.value]: true }
  void send()
}
function keep() {
  meant.value = {} // what was meant of another tree is not meant of this one
  void send()
}
async function send() {
  if (!(await s.send(meant.value))) return
  wrong.value = {}
  await nextTick()
  tagField.value?.focus()
  tagField.value?.select()
}
</script>

<template>
  <PageFrame title="Key in a tally sheet" hint="A tag, then a letter for each row; nothing else to press" back="/paper">
    <div class="panel choice">
      <SheetChoice v-model="s.asked.value" />
      <PlaceFields v-model:tract="where.tract" v-model:stand="where.stand" name="sheet" />
      <label class="field">Day it was written <input v-model="where.day" type="date" /></label>
      <label class="field">Observer, if not you <input v-model="where.writer" maxlength="80" data-writer /></label>
    </div>
    <SaidWrong :lines="s.reading.wrong.value" again @again="s.read" />
    <form v-if="sheet" class="panel" novalidate @submit.prevent>
      <p>
        Sheet <strong data-code>{{ sheet.code }}</strong> <span class="soft small">must stand at the foot of the paper.</span>
      </p>
      <p class="soft small">
        A letter answers and goes on. Space or Enter leaves a row empty, ? is “cannot tell”, + and a second letter is one or the other,
        Backspace goes back, Ctrl and Enter keep the tree.
      </p>
      <label class="field tag"
        >Tag
        <input
          ref="tagField"
          v-model="draft.tag"
          maxlength="40"
          autocomplete="off"
          placeholder="LC-401"
          data-sheet-tag
          @blur="s.look"
          @keydown.enter.prevent="go(0)"
      /></label>
      <p v-if="s.has.value" class="hint small" role="status">{{ s.has.value }} is in the book: what you key in is added to it.</p>
      <section v-for="part in sections" :key="part.id" :aria-label="part.words">
        <h2>{{ part.words }}</h2>
        <div v-for="r in part.rows" :key="r.character" class="row">
          <label :for="`row-${rows.indexOf(r)}`">{{ capital(r.name) }}</label>
          <input
            :id="`row-${rows.indexOf(r)}`"
            v-model="draft.written[r.character]"
            maxlength="40"
            autocomplete="off"
            autocapitalize="off"
            spellcheck="false"
            :inputmode="r.kind === 'numeric' ? 'decimal' : 'text'"
            :placeholder="r.kind === 'numeric' ? r.unit : ''"
            :aria-invalid="Boolean(wrong[r.character])"
            :data-row="r.character"
            @keydown="move(rows.indexOf(r), r, $event)"
            @beforeinput="strike(rows.indexOf(r), r, $event as InputEvent)"
          />
          <span v-if="wrong[r.character]" class="wrong small" role="alert">{{ wrong[r.character] }}</span>
          <strong v-else-if="means(r, draft.written[r.character] ?? '')" class="small">{{
            means(r, draft.written[r.character] ?? '')
          }}</strong>
          <span v-else class="soft small">{{
            r.boxes?.length ? r.boxes.map((b) => `${b.letter} ${b.words}`).join(', ') : `in ${r.unit}`
          }}</span>
        </div>
      </section>
      <fieldset class="choice foot">
        <label class="field">Pairs counted <input v-model="draft.pairs" type="number" min="0" max="200" data-pairs /></label>
        <label class="field">Singles counted <input v-model="draft.singles" type="number" min="0" max="200" data-singles /></label>
        <label class="field"
          >Age
          <select v-model="draft.age" data-age>
            <option value="">not written</option>
            <option v-for="a in ['young', 'mature', 'old']" :key="a" :value="a">{{ a }}</option>
          </select></label
        >
      </fieldset>
      <label class="field">Notes <textarea v-model="draft.note" rows="2" maxlength="2000"></textarea></label>
      <SaidWrong
        :lines="s.sending.wrong.value"
        :yes="{ new: 'It is new: make it', again: 'It is another look: keep it too' }[s.sending.asked.value]"
        @yes="yes"
      />
      <p>
        <button id="sheet-keep" type="button" class="press lead" :disabled="s.sending.busy.value" data-sheet-keep @click="keep">
          {{ s.sending.busy.value ? 'Being kept…' : `Keep ${draft.tag || 'this tree'}: ${s.filled.value} answers` }}
        </button>
      </p>
    </form>
    <section v-if="s.kept.value.length" aria-live="polite" aria-label="Kept">
      <SaidWrong :lines="s.undoing.wrong.value" />
      <ul class="rows" data-sheet-kept>
        <li v-for="k in s.kept.value" :key="k.id + k.words" class="kept">
          <RouterLink class="press" :to="`/trees/${k.id}`">{{ k.tag }}</RouterLink> <span>{{ k.words }}</span>
          <button type="button" class="press quiet" data-undo-sheet :disabled="s.undoing.busy.value" @click="s.undo(k)">
            Undo this sheet
          </button>
        </li>
      </ul>
    </section>
  </PageFrame>
</template>

<style scoped>
.choice {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(13rem, 100%), 1fr));
  gap: 0.75rem;
  align-items: end;
}

form.panel {
  display: grid;
  gap: 0.75rem;
}

.tag {
  max-width: 16rem;
}

.foot {
  border: 0;
  padding: 0;
  margin: 0;
}

h2 {
  font-size: 1rem;
  margin: 0.5rem 0 0.25rem;
}

.row {
  display: grid;
  grid-template-columns: 12rem 6rem minmax(0, 1fr);
  gap: 0.25rem 0.75rem;
  align-items: center;
  padding: 0.125rem 0;
}

.row + .row {
  border-top: 1px solid var(--pt-line);
}

.row input {
  min-height: var(--pt-press);
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: var(--pt-snow);
  padding: 0 0.75rem;
  font-weight: 600;
  width: 100%;
}

.kept {
  display: flex;
  flex-wrap: wrap;
  gap: 0.75rem;
  align-items: center;
  padding: 0.25rem 0.5rem;
}

@media (max-width: 700px) {
  .row {
    grid-template-columns: minmax(0, 1fr) 6rem;
  }

  .row > :last-child {
    grid-column: 1 / -1;
  }
}
</style>
