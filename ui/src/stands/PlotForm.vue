<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import { computed, nextTick, ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { useSession } from '../frame/session'
import OfferedReading from '../instruments/OfferedReading.vue'
import type { Reading } from '../instruments/instruments'

/** One sample point: each stem is a line; a tree of the book brings its own name and diameter. */
const props = defineProps<{ plot: Schemas['Plot'] }>()
const emit = defineEmits<{ kept: []; leave: [] }>()
const session = useSession()
const confirm = useConfirm()
const form = ref<Schemas['Plot']>(JSON.parse(JSON.stringify(props.plot)) as Schemas['Plot'])
const kind = ref<'angle' | 'fixed'>(props.plot.radius ? 'fixed' : 'angle')
const lat = ref(form.value.position ? String(form.value.position.lat) : '')
const lon = ref(form.value.position ? String(form.value.position.lon) : '')
const mine = ref<string[]>([])
const { wrong, busy, asked, ask } = useAsk({ typed: true })
const isNew = computed(() => !props.plot.words)

/** A stem's one field for what it is: a tag, or a name. */
interface Line {
  what: string
  tree?: string
  diameter: string
  borderline: boolean
}
const lines = ref<Line[]>(
  (form.value.stems ?? []).map((s) => ({
    what: s.taxon ?? '',
    tree: s.tree,
    diameter: s.diameter ?? '',
    borderline: s.borderline ?? false,
  })),
)
if (!lines.value.length) add()

function add() {
  lines.value.push({ what: '', diameter: '', borderline: false })
  void nextTick(() => document.querySelector<HTMLInputElement>('[data-stem]:last-of-type input')?.focus())
}
/** Tags of this book have figures in them; names of trees have none. */
const isTag = (what: string) => /\d/.test(what)
function stem(l: Line): Schemas['Stem'] {
  const what = l.what.trim()
  const of = isTag(what) ? { tag: what } : { ...(l.tree ? { tree: l.tree } : {}), ...(what ? { taxon: what } : {}) }
  const typed = l.diameter.trim()
  const diameter = /^[\d.,]+$/.test(typed) ? `${typed} cm` : typed
  return { ...of, ...(diameter ? { diameter } : {}), ...(l.borderline ? { borderline: true } : {}) }
}

const read = new Map<Line, string>() // what an instrument read: once another figure is typed over it, it is typed
if (form.value.instrument) lines.value.forEach((l) => l.diameter && read.set(l, l.diameter))
function take(l: Line, r: Reading) {
  l.diameter = r.text
  read.set(l, r.text)
  form.value.instrument = r.instrument
}
watch(
  lines,
  () => {
    for (const [l, text] of read) if (l.diameter !== text) read.delete(l)
    if (form.value.instrument && !read.size) form.value.instrument = ''
  },
  { deep: true },
)
function place(r: Reading) {
  lat.value = (r.lat ?? 0).toFixed(6)
  lon.value = (r.lon ?? 0).toFixed(6)
}
function here() {
  navigator.geolocation.getCurrentPosition(
    (p) => {
      lat.value = p.coords.latitude.toFixed(6)
      lon.value = p.coords.longitude.toFixed(6)
    },
    () => (mine.value = ['This device does not say where it is. Type the position.']),
    { enableHighAccuracy: true, timeout: 15_000 },
  )
}

async function send(gone: boolean, far = false) {
  mine.value = []
  const at = { lat: Number(lat.value), lon: Number(lon.value) }
  if ((lat.value || lon.value) && !(lat.value && lon.value && Number.isFinite(at.lat) && Number.isFinite(at.lon))) {
    mine.value = ['A position needs both figures, in degrees: 43.56120 and -90.63810.']
    return
  }
  const { id, tract, stand, name, day, instrument, remarks, factor, radius, slope } = form.value
  const stems = lines.value.filter((l) => l.what.trim() || l.tree || l.diameter.trim() || l.borderline).map(stem)
  const how = kind.value === 'angle' ? { factor } : { radius }
  const body = {
    id,
    tract,
    stand,
    name,
    day,
    stems,
    remarks,
    instrument,
    gone,
    far: far || undefined,
    ...how,
    ...(slope?.trim() ? { slope: /^[\d.,]+$/.test(slope.trim()) ? `${slope.trim()} %` : slope.trim() } : {}),
    ...(lat.value ? { position: at } : {}),
  }
  if ((await ask(api.PUT('/api/plots', { body }))).ok) emit('kept')
}

function askGone() {
  confirm.require({
    header: `Take ${form.value.name} out?`,
    message: 'What was counted from it counts no more.',
    acceptLabel: 'Take it out',
    rejectProps: { label: 'Leave it', severity: 'secondary', outlined: true },
    defaultFocus: 'reject',
    accept: () => void send(true),
  })
}
const counted = computed(() => lines.value.filter((l) => l.what.trim() || l.tree || l.diameter.trim()).length)
</script>

<template>
  <form class="panel" @submit.prevent="send(false)">
    <label class="field">Point <input v-model="form.name" required maxlength="40" /></label>
    <label class="field">Day <input v-model="form.day" type="date" required /></label>
    <label class="field"
      >How
      <select v-model="kind" data-kind>
        <option value="angle">angle count</option>
        <option value="fixed">fixed radius</option>
      </select></label
    >
    <label v-if="kind === 'angle'" class="field"
      >Factor <input v-model="form.factor" data-factor required placeholder="2 m2/ha, 10 ft2/ac" maxlength="40"
    /></label>
    <label v-else class="field"
      >Radius <input v-model="form.radius" data-radius required placeholder="11.28 m, 37.2 ft" maxlength="40"
    /></label>
    <label class="field"
      >Slope <input v-model="form.slope" data-slope placeholder="20 %, 12°" maxlength="40" />
      <span class="small soft">where neither gauge nor tape allowed for it</span></label
    >
    <label class="field">Latitude <input v-model="lat" inputmode="decimal" placeholder="43.56120" /></label>
    <label class="field">Longitude <input v-model="lon" inputmode="decimal" placeholder="-90.63810" /></label>
    <span class="wide acts">
      <button type="button" class="press" @click="here">Where I stand</button>
      <OfferedReading :kinds="['position']" @take="place" />
    </span>
    <fieldset class="wide">
      <legend>Stems that count · {{ counted }}</legend>
      <div v-for="(l, i) in lines" :key="i" class="stem" data-stem>
        <label class="field"
          >{{ i + 1 }}. Tag, tree or genus
          <input
            v-model="l.what"
            maxlength="80"
            :placeholder="l.tree ? 'a tree of the book' : 'LC-101, red oak; empty: not named'"
            data-what
        /></label>
        <label class="field"
          >Diameter
          <input
            v-model="l.diameter"
            maxlength="40"
            :placeholder="l.tree || isTag(l.what) ? 'the tree’s own' : '31 cm, 12.5 in'"
            data-diameter
        /></label>
        <label class="check"><input v-model="l.borderline" type="checkbox" /> on the border (half)</label>
        <button type="button" class="press quiet" :aria-label="`Leave stem ${i + 1} out`" @click="lines.splice(i, 1)">
          <i class="pi pi-times" aria-hidden="true"></i>
        </button>
        <OfferedReading v-if="i === lines.length - 1" class="wide" :kinds="['diameter']" @take="take(l, $event)" />
      </div>
      <button type="button" class="press" data-add-stem @click="add">One more stem</button>
    </fieldset>
    <label class="field wide">Remarks <input v-model="form.remarks" maxlength="2000" /></label>
    <SaidWrong
      class="wide"
      :lines="[...mine, ...wrong]"
      :yes="asked === 'far' ? 'It does lie there' : undefined"
      @yes="send(false, true)"
    />
    <span class="wide acts">
      <button class="press lead" data-keep-plot :disabled="busy">Keep</button>
      <button class="press quiet" type="button" @click="emit('leave')">Leave</button>
      <button v-if="!isNew && session.may('observer')" class="press quiet" type="button" @click="askGone">Take it out</button>
    </span>
  </form>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(11rem, 100%), 1fr));
  gap: 0.75rem;
  align-items: start;
}

.wide {
  grid-column: 1 / -1;
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

fieldset {
  display: grid;
  gap: 0.5rem;
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  padding: 0.5rem 0.75rem;
  min-width: 0;
}

.stem {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr) auto auto;
  gap: 0.5rem;
  align-items: end;
}

@media (max-width: 700px) {
  .stem {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    border-bottom: 1px solid var(--pt-line);
    padding-bottom: 0.5rem;
  }
}
</style>
