<script setup lang="ts">
import { ulid } from 'ulid'
import { computed, defineAsyncComponent, ref } from 'vue'
import { useConfirm } from 'primevue/useconfirm'
import { api, type Entry, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import PlaceFields from './PlaceFields.vue'
import { useVocabulary } from '../frame/vocabulary'
import { useSession } from '../frame/session'
import { figure } from '../frame/words'

const TerrainMap = defineAsyncComponent(() => import('../stands/TerrainMap.vue'))
const props = defineProps<{ tree: Schemas['Tree']; facts: Schemas['Facts'] }>()
const emit = defineEmits<{ kept: [] }>()
const session = useSession()
const open = ref(false)
const mine = ref<string[]>([]) // what is wrong before it is sent
const { wrong, asked, ask } = useAsk({ typed: true })
const confirm = useConfirm()
const vocabulary = useVocabulary()
const land = ref<Schemas['Map'] | null>(null)
const form = ref({ tag: '', tract: '', stand: '', lat: '', lon: '', height: '', unit: 'm', vigour: '', remarks: '' })
const was = ref('') // the height as the form opened with it
const tall = ref('') // what was understood of the height

const at = computed(() => {
  const lat = Number(form.value.lat)
  const lon = Number(form.value.lon)
  return form.value.lat !== '' && form.value.lon !== '' && Number.isFinite(lat) && Number.isFinite(lon) ? { lat, lon } : undefined
})
const says = computed(() => {
  const f = props.facts
  return [
    f.position ? `${f.position.lat.toFixed(5)}, ${f.position.lon.toFixed(5)}` : 'no position',
    f.height_m ? `${figure(f.height_m)} m tall` : '',
    f.vigour,
    f.age,
    f.remarks,
  ]
    .filter(Boolean)
    .join(' · ')
})

function start() {
  const f = props.facts
  form.value = {
    tag: props.tree.tag,
    tract: props.tree.tract,
    stand: props.tree.stand,
    lat: f.position ? String(f.position.lat) : '',
    lon: f.position ? String(f.position.lon) : '',
    height: f.height_m ? String(f.height_m) : '',
    unit: 'm',
    vigour: f.vigour,
    remarks: f.remarks,
  }
  was.value = form.value.height
  tall.value = ''
  mine.value = []
  open.value = true
}

async function showMap() {
  land.value = land.value ? null : ((await ask(api.GET('/api/map'))).data ?? null)
}

function pick(p: { lat: number; lon: number }) {
  form.value.lat = p.lat.toFixed(6)
  form.value.lon = p.lon.toFixed(6)
}

function here() {
  navigator.geolocation.getCurrentPosition(
    (p) => pick({ lat: p.coords.latitude, lon: p.coords.longitude }),
    () => (mine.value = ['This device does not say where it is. Type the position, or press it on the map.']),
    { enableHighAccuracy: true, timeout: 15000 },
  )
}

/** The height in metres, 0 where none is written, or nothing where it cannot be read. */
async function readHeight(): Promise<number | undefined> {
  const typed = form.value.height.trim()
  if (!typed) return 0
  if (typed === was.value) return props.facts.height_m
  const { data } = await ask(api.GET('/api/measure', { params: { query: { typed, taken: form.value.unit as 'm', to: 'm' } } }))
  tall.value = data?.words ?? ''
  return data?.value
}

/** What was changed, as the facts of one entry; nothing else is touched. */
function changes(height: number): NonNullable<Entry['facts']> {
  const f = props.facts
  const out: NonNullable<Entry['facts']> = {}
  if (f.position && form.value.lat === '' && form.value.lon === '') out.unplaced = true
  if (at.value && (at.value.lat !== f.position?.lat || at.value.lon !== f.position?.lon)) out.position = at.value
  if (height !== f.height_m) out.height_m = height
  if (form.value.vigour !== f.vigour) out.vigour = form.value.vigour as NonNullable<typeof out.vigour>
  if (form.value.remarks !== f.remarks) out.remarks = form.value.remarks
  return out
}

/** Adds an entry of facts. */
const set = (facts: NonNullable<Entry['facts']>, far = false) =>
  ask(
    api.POST('/api/trees/{id}/entries', {
      params: { path: { id: props.tree.id } },
      body: { id: ulid(), kind: 'facts', facts, by: session.name || undefined, far: far || undefined },
    }),
  )

async function setAside(aside: boolean) {
  const { ok } = await set({ aside })
  if (ok) open.value = false
  emit('kept')
}

/** A tree that was entered by mistake is kept, and left out of lists, sums and files. */
function askAside() {
  confirm.require({
    header: `Set ${props.tree.tag} aside?`,
    message: 'It is kept with all its looks, and lists, sums and files leave it out until it is taken back here.',
    acceptLabel: 'Set it aside',
    rejectProps: { label: 'Leave it', severity: 'secondary', outlined: true },
    defaultFocus: 'reject',
    accept: () => void setAside(true),
  })
}

/** Keeps what was changed. A place that is new, or far from the others, is meant where that is said. */
async function keep(isNew = false, far = false) {
  mine.value = []
  if ((form.value.lat !== '' || form.value.lon !== '') && !at.value) {
    mine.value = ['A position needs both figures, in degrees: 43.56120 and -90.63810.']
    return
  }
  const height = await readHeight()
  if (height === undefined) return
  let ok = true
  const { tag, tract, stand } = form.value
  if (tag !== props.tree.tag || tract !== props.tree.tract || stand !== props.tree.stand) {
    const place = { tag: tag.trim(), tract: tract.trim(), stand: stand.trim() }
    const to = { ...place, by: session.name || undefined, new: isNew || undefined }
    ok = (await ask(api.POST('/api/trees/{id}/move', { params: { path: { id: props.tree.id } }, body: to }))).ok
  }
  const facts = changes(height)
  if (ok && Object.keys(facts).length) ok = (await set(facts, far)).ok
  if (ok) open.value = false
  emit('kept')
}
</script>

<template>
  <section class="panel" aria-label="Where it stands and how it does">
    <p v-if="facts.aside" class="hint line">
      This tree is set aside as entered by mistake; lists, sums and files leave it out.
      <button v-if="session.may('observer')" class="press" data-bring-back @click="setAside(false)">Take it back</button>
    </p>
    <SaidWrong v-if="!open" :lines="wrong" />
    <p class="line">
      <span>{{ says }}</span> <button v-if="!open && session.may('observer')" class="press" data-details @click="start">Change</button>
    </p>
    <form v-if="open" @submit.prevent="keep()">
      <label class="field">Tag <input v-model="form.tag" maxlength="40" required /></label>
      <PlaceFields v-model:tract="form.tract" v-model:stand="form.stand" name="moved" wrong="details-wrong" />
      <label class="field">Latitude <input id="lat" v-model="form.lat" inputmode="decimal" placeholder="43.56120" /></label>
      <label class="field">Longitude <input id="lon" v-model="form.lon" inputmode="decimal" placeholder="-90.63810" /></label>
      <span class="pair"
        ><button class="press" type="button" @click="here">Where I stand</button>
        <button class="press" type="button" data-on-map :aria-expanded="!!land" @click="showMap">On the map</button></span
      >
      <span class="field"
        ><label for="height">Height</label>
        <span class="with-unit"
          ><input
            id="height"
            v-model="form.height"
            autocomplete="off"
            placeholder="18.3 or 60 ft"
            :aria-invalid="wrong.length > 0 && form.height !== was"
            aria-describedby="height-said"
            @change="readHeight"
          /><select v-model="form.unit" aria-label="Unit of the height" @change="((was = ''), readHeight())">
            <option>m</option>
            <option>ft</option>
          </select></span
        ><span id="height-said" class="small soft" role="status">{{ tall }}</span></span
      >
      <label class="field"
        >Vigour
        <select v-model="form.vigour">
          <option value="">not judged</option>
          <option v-for="v in vocabulary.words?.vigours" :key="v.id" :value="v.id">{{ v.words }}</option>
        </select></label
      >
      <TerrainMap v-if="land" class="wide" :land="land" :dots="[]" pick :at="at" @pick="pick" />
      <label class="field wide">Remarks <textarea v-model="form.remarks" rows="2" maxlength="2000"></textarea></label>
      <p class="wide small soft">The diameter is scored on the desk, under Outline, as it is evidence too.</p>
      <SaidWrong
        id="details-wrong"
        class="wide"
        :lines="[...mine, ...wrong]"
        :yes="{ new: 'It is new: make it', far: 'It does stand there' }[asked]"
        @yes="keep(asked === 'new', asked === 'far')"
      />
      <span class="wide pair"
        ><button class="press lead" type="submit">Keep</button>
        <button class="press quiet" type="button" @click="open = false">Leave</button>
        <button v-if="!facts.aside" class="press quiet" type="button" data-aside @click="askAside">
          Entered by mistake: set it aside
        </button></span
      >
    </form>
  </section>
</template>

<style scoped>
.with-unit {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0.25rem;
}

.with-unit > * {
  min-height: var(--pt-press);
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: var(--pt-snow);
  padding: 0.25rem 0.5rem;
}

.line {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
  justify-content: space-between;
}

form {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 0.75rem;
  align-items: end;
}

.pair {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  grid-column: span 2;
}

.wide {
  grid-column: 1 / -1;
}

@media (max-width: 700px) {
  form {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
