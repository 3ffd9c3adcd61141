<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { onBeforeRouteLeave } from 'vue-router'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import PageFrame from '../frame/PageFrame.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { useSession } from '../frame/session'
import { useVocabulary } from '../frame/vocabulary'
import { capital } from '../frame/words'
import { presses, useMarks, type Mode, type Spot } from './marks'

const props = defineProps<{ tree: string; id: string }>()
const session = useSession()
const vocabulary = useVocabulary()
const photo = ref<Schemas['Photo'] | null>(null)
const looks = ref<Schemas['LookView'][]>([])
const look = ref('')
const mode = ref<Mode>('known')
const cursor = ref<Spot>([0.5, 0.5])
const ready = ref(false) // what was marked before is there: what is pressed now is not laid over by it
const keys = ref(false) // the cursor is moved by keys
const done = ref('')
const { wrong, ask } = useAsk()
const m = useMarks(props.id, props.tree)
const marks = m.marks

onMounted(async () => {
  const path = { id: props.tree }
  const { data } = await ask(api.GET('/api/trees/{id}/photos', { params: { path } }))
  photo.value = data?.find((p) => p.id === props.id) ?? null
  look.value = photo.value?.look ?? ''
  const view = await ask(api.GET('/api/trees/{id}', { params: { path } }))
  looks.value = view.data?.looks ?? []
  await m.load()
  ready.value = true
})
onBeforeRouteLeave(() => !m.changed.value || window.confirm('The marks are not kept yet. Leave them?'))

const modes: { id: Mode; words: string; hint: string }[] = [
  { id: 'known', words: 'Known length', hint: 'Press both ends of something whose length you know: a rule, a coin, a card.' },
  { id: 'line', words: 'Length', hint: 'Press both ends of what is to be measured, in the same plane as the known length.' },
  { id: 'bend', words: 'Angle', hint: 'Press one side, the corner, and the other side.' },
  { id: 'count', words: 'Count', hint: 'Press each one: bud scales, bundle traces, pith chambers.' },
]
const hint = computed(() => modes.find((x) => x.id === mode.value)?.hint)
const left = computed(() => presses[mode.value] - m.pending.value.length)
const numeric = computed(() => [...vocabulary.characters.values()].filter((c) => c.kind === 'numeric'))
const lengths = computed(() => numeric.value.filter((c) => c.length))
const counts = computed(() => numeric.value.filter((c) => !c.length))

function spot(e: MouseEvent): Spot {
  const r = (e.currentTarget as SVGElement).getBoundingClientRect()
  const part = (x: number) => Math.min(1, Math.max(0, x))
  return [part((e.clientX - r.left) / r.width), part((e.clientY - r.top) / r.height)]
}

function press(e: MouseEvent) {
  keys.value = false
  done.value = ''
  m.press(mode.value, spot(e))
}

const moves: Record<string, Spot> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
function key(e: KeyboardEvent) {
  const by = moves[e.key]
  if (by) {
    keys.value = true
    const step = e.shiftKey ? 0.05 : 0.005
    cursor.value = [0, 1].map((i) => Math.min(1, Math.max(0, cursor.value[i]! + by[i]! * step))) as Spot
  } else if (e.key === 'Enter' || e.key === ' ') {
    m.press(mode.value, [...cursor.value])
  } else if (e.key === 'Backspace') m.back()
  else return
  e.preventDefault()
}

const aspect = computed(() => (photo.value ? photo.value.width / photo.value.height : 1))
type At = readonly number[] | null | undefined
const x = (s: At) => (s?.[0] ?? 0) * 1000
const y = (s: At) => ((s?.[1] ?? 0) * 1000) / aspect.value
async function offer(o: Schemas['OfferedScore']) {
  if (await m.score(o, look.value)) done.value = `${capital(o.name)} of ${o.words} is scored.`
}
async function keep() {
  if (await m.keep()) done.value = 'The marks are kept with the photograph.'
}
</script>

<template>
  <PageFrame title="Measure on a photograph" :hint="hint" :back="`/trees/${tree}/story`" wide>
    <SaidWrong :lines="[...wrong, ...m.wrong.value, ...m.readWrong.value]" />
    <div v-if="photo && ready" class="halves">
      <div>
        <div class="modes" role="group" aria-label="What is marked">
          <button
            v-for="one in modes"
            :key="one.id"
            class="press"
            :data-mode="one.id"
            :aria-pressed="mode === one.id"
            @click="((mode = one.id), (m.pending.value = []))"
          >
            {{ one.words }}
          </button>
          <button class="press quiet" data-back :disabled="!m.pending.value.length && !m.order.value.length" @click="m.back">Back</button>
        </div>
        <div class="picture">
          <img :src="`/api/photos/${id}/full`" :alt="photo.caption || 'The photograph'" />
          <svg
            :viewBox="`0 0 1000 ${1000 / aspect}`"
            tabindex="0"
            role="application"
            aria-label="The photograph. Arrow keys move a cross, Enter marks, Backspace takes the last mark away."
            data-picture
            @click="press"
            @keydown="key"
          >
            <g v-for="(l, i) in marks.lines" :key="`l${i}`" :class="{ known: i === 0 && marks.known }">
              <line class="under" :x1="x(l.from)" :y1="y(l.from)" :x2="x(l.to)" :y2="y(l.to)" />
              <line :x1="x(l.from)" :y1="y(l.from)" :x2="x(l.to)" :y2="y(l.to)" />
              <text :x="x(l.to) + 8" :y="y(l.to) - 8">{{ i === 0 ? 'known' : m.off.value?.lines?.[i] || `length ${i}` }}</text>
            </g>
            <g v-for="(b, i) in marks.bends" :key="`b${i}`">
              <polyline class="under" :points="b.at?.map((s) => `${x(s)},${y(s)}`).join(' ')" />
              <polyline :points="b.at?.map((s) => `${x(s)},${y(s)}`).join(' ')" />
              <text :x="x(b.at?.[1]) + 8" :y="y(b.at?.[1]) - 8">{{ m.off.value?.bends?.[i] }}</text>
            </g>
            <g v-for="(s, i) in marks.tally" :key="`t${i}`">
              <circle :cx="x(s)" :cy="y(s)" r="13" />
              <text :x="x(s)" :y="y(s) + 7" text-anchor="middle">{{ i + 1 }}</text>
            </g>
            <circle v-for="(s, i) in m.pending.value" :key="`p${i}`" class="pending" :cx="x(s)" :cy="y(s)" r="6" />
            <path v-if="keys" class="cross" :d="`M${x(cursor) - 16} ${y(cursor)}h32M${x(cursor)} ${y(cursor) - 16}v32`" />
          </svg>
        </div>
        <p class="small soft" role="status">{{ left }} {{ left === 1 ? 'press' : 'presses' }} to go for this mark.</p>
      </div>
      <section class="panel" aria-label="What is read off">
        <label class="field"
          >The known length is
          <input v-model="marks.known" data-known placeholder="10 mm, 1/4 in" autocomplete="off" @change="m.read()" />
        </label>
        <p v-if="m.off.value?.wrong" class="wrong" role="alert">{{ capital(m.off.value.wrong) }}.</p>
        <p v-else-if="!marks.known" class="small soft">Without a known length only angles and counts can be read off.</p>
        <table v-if="(marks.lines?.length ?? 0) > 1 || marks.bends?.length">
          <tbody>
            <tr v-for="(l, i) in (marks.lines ?? []).slice(1)" :key="i">
              <th scope="row">Length {{ i + 1 }}</th>
              <td>{{ m.off.value?.lines?.[i + 1] || '–' }}</td>
              <td>
                <select v-model="l.of" :aria-label="`What length ${i + 1} is`" :data-of="i + 1" @change="m.read()">
                  <option value="">of nothing that is scored</option>
                  <option v-for="c in lengths" :key="c.id" :value="c.id">{{ c.name }}</option>
                </select>
              </td>
            </tr>
            <tr v-for="(_, i) in marks.bends" :key="`b${i}`">
              <th scope="row">Angle {{ i + 1 }}</th>
              <td>{{ m.off.value?.bends?.[i] }}</td>
              <td></td>
            </tr>
          </tbody>
        </table>
        <p v-if="marks.tally?.length" class="counted">
          <strong>{{ marks.tally.length }} counted</strong>
          <select v-model="marks.what" aria-label="What is counted" @change="m.read()">
            <option value="">of nothing that is scored</option>
            <option v-for="c in counts" :key="c.id" :value="c.id">{{ c.name }}</option>
          </select>
        </p>
        <template v-if="session.may('observer')">
          <label v-if="m.off.value?.offered?.length" class="field"
            >Into the look
            <select v-model="look">
              <option value="">a new one, at the tree</option>
              <option v-for="l in looks" :key="l.id" :value="l.id">{{ l.from_words }}</option>
            </select></label
          >
          <button v-for="o in m.off.value?.offered" :key="o.character" class="press lead" data-offer @click="offer(o)">
            Score {{ o.name }}: {{ o.words }}
          </button>
          <span class="modes">
            <button class="press" data-keep-marks :disabled="!m.changed.value" @click="keep">
              {{ m.changed.value ? 'Keep the marks' : 'Kept' }}
            </button>
            <button class="press quiet" @click="m.clear">Clear all</button>
          </span>
        </template>
        <p v-if="done" role="status">{{ done }}</p>
        <p class="small soft">
          Errors hold a press that is off by two pixels of a thousand at each end, and 3 % for what lies aslant (common practice).
        </p>
      </section>
    </div>
    <p v-else-if="ready && !wrong.length" class="soft">There is no such photograph of this tree.</p>
  </PageFrame>
</template>

<style scoped>
.halves {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(18rem, 1fr);
  gap: 1rem;
  align-items: start;
}

.modes {
  display: flex;
  flex-wrap: wrap;
  gap: 0.375rem;
  margin-bottom: 0.5rem;
}

.picture {
  position: relative;
  line-height: 0;
}

img {
  width: 100%;
  border-radius: 8px;
}

svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  cursor: crosshair;
  touch-action: manipulation;
}

line,
polyline {
  fill: none;
  stroke: #ffd84d;
  stroke-width: 3;
}

.under {
  stroke: #000;
  stroke-width: 7;
  opacity: 0.6;
}

.known line:not(.under) {
  stroke: #7fe0ff;
}

circle {
  fill: #ffd84d;
  stroke: #000;
  stroke-width: 2;
}

.pending {
  fill: #fff;
}

.cross {
  stroke: #fff;
  stroke-width: 3;
  paint-order: stroke;
}

text {
  font-size: 22px;
  font-weight: 600;
  fill: #fff;
  stroke: #000;
  stroke-width: 4;
  paint-order: stroke;
}

circle + text {
  font-size: 18px;
  fill: #000;
  stroke: none;
}

.panel {
  display: grid;
  gap: 0.75rem;
}

th {
  white-space: nowrap;
  text-align: left;
  font-weight: 500;
  padding-right: 0.75rem;
}

td,
.counted {
  padding: 0.125rem 0.5rem 0.125rem 0;
  font-variant-numeric: tabular-nums;
}

td + td {
  width: 50%;
}

select {
  min-height: var(--pt-press);
  width: 100%;
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: var(--pt-snow);
  padding: 0 0.5rem;
}

@media (max-width: 800px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
