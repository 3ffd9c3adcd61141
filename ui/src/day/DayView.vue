<script setup lang="ts">
import SaveFile from '../frame/SaveFile.vue'
import { computed, onMounted, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import PageFrame from '../frame/PageFrame.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { capital, clockThere, count, figure } from '../frame/words'
import TerrainMap from '../stands/TerrainMap.vue'
import ReportButton from '../stands/ReportButton.vue'
import { useFilter } from '../trees/filter'
import { useStands } from '../trees/stands'
import { useVocabulary } from '../frame/vocabulary'
import { useDay } from './day'
import NextStop from './NextStop.vue'

const day = useDay()
const stands = useStands()
const filter = useFilter('worklist')
const vocabulary = useVocabulary()
const plan = computed(() => day.plan)
onMounted(() => {
  void stands.load()
  if (filter.on) {
    const { tract, stand, status, home } = filter // a day of those that the worklist shows
    Object.assign(day.asked, { tract, stand, status: [...status], home, text: filter.text.trim() })
  }
  if (day.asked.date < new Date().toLocaleDateString('sv')) day.anew() // that day is over
})

const land = ref<Schemas['Map'] | null>(null)
const map = useAsk()
onMounted(async () => (land.value = (await map.ask(api.GET('/api/map'))).data ?? null))
/** The way as the map draws it: from the start past all stops to the end. */
function routeOf(c: Schemas['CrewDay']) {
  const spot = (at: number[] | null | undefined, label: string) => ({ lat: at?.[1] ?? 0, lon: at?.[0] ?? 0, label })
  const stops = (c.stops ?? []).map((s) => spot([s.lon ?? 0, s.lat ?? 0], String(s.n)))
  return [spot(plan.value?.from, ''), ...stops, spot(plan.value?.to, '')]
}
const chosen = computed(() => {
  const { status, home, text } = day.asked
  const says = [
    ...status.map((id) => vocabulary.status(id)?.words.toLowerCase() ?? id),
    home ? 'twig in hand' : '',
    text ? `“${text}”` : '',
  ]
  return says.filter(Boolean).join(', ')
})

const lost = ref('')
function locate(then: (at: [number, number]) => void) {
  lost.value = ''
  navigator.geolocation.getCurrentPosition(
    (p) => then([p.coords.longitude, p.coords.latitude]),
    () => (lost.value = 'This device does not say where it is: choose a gate, or the middle of the trees.'),
    { enableHighAccuracy: true, timeout: 15_000 },
  )
}
const gates = computed(() => plan.value?.gates ?? [])
const same = (a: number[] | null | undefined, b: number[] | null | undefined) => a?.[0] === b?.[0] && a?.[1] === b?.[1]
const gateOf = (at: [number, number] | null) => gates.value.find((g) => same(g.at, at))?.name ?? (at ? 'here' : '')
function begin(e: Event) {
  const name = (e.target as HTMLSelectElement).value
  if (name === 'here') return locate((at) => (day.from = at))
  day.from = (gates.value.find((g) => g.name === name)?.at as [number, number] | undefined) ?? null
}
function end(e: Event) {
  const name = (e.target as HTMLSelectElement).value
  day.to = (gates.value.find((g) => g.name === name)?.at as [number, number] | undefined) ?? null
}

function pin(id: string) {
  day.pin = day.pin.includes(id) ? day.pin.filter((p) => p !== id) : [...day.pin, id]
}

/** A stop is done: no tree is gone to twice. */
function goOn(done: string, at: [number, number], left: string[]) {
  day.drop = [...day.drop, done]
  void day.goOn(at, left)
}
</script>

<template>
  <PageFrame title="Plan a day" hint="Which open trees to visit, in which order, so that most is learned before dark" back="/worklist">
    <template #actions>
      <span v-if="plan" class="files">
        <SaveFile :href="`/api/day.gpx?${day.search}`" name="day.gpx"><i class="pi pi-map" aria-hidden="true"></i> Route (GPX)</SaveFile>
        <SaveFile :href="`/api/day.ics?${day.search}`" name="day.ics"><i class="pi pi-calendar" aria-hidden="true"></i> Calendar</SaveFile>
        <ReportButton :href="`/api/day.pdf?${day.search}`" name="day.pdf" words="Day sheet (PDF)" />
      </span>
    </template>
    <form class="panel" @submit.prevent="day.asAsked()">
      <label class="field">Day <input v-model="day.asked.date" type="date" required data-day-date /></label>
      <label class="field">From <input v-model="day.asked.start" type="time" required data-day-start /></label>
      <label class="field">Till <input v-model="day.asked.end" type="time" /><span class="small soft">empty: before dusk</span></label>
      <label class="field"
        >Tract
        <select v-model="day.asked.tract" @change="day.asked.stand = ''">
          <option value="">all</option>
          <option v-for="t in stands.tracts" :key="t" :value="t">{{ t }}</option>
        </select></label
      >
      <label class="field"
        >Stand
        <select v-model="day.asked.stand" :disabled="!day.asked.tract">
          <option value="">the whole tract</option>
          <option v-for="s in stands.standsOf(day.asked.tract)" :key="s" :value="s">{{ s }}</option>
        </select></label
      >
      <label class="field"
        >Crews <input v-model.number="day.asked.crews" type="number" min="1" max="6" required inputmode="numeric"
      /></label>
      <label class="field"
        >Break <input v-model.number="day.asked.break" type="number" min="0" max="240" inputmode="numeric" data-day-break />
        <span class="small soft">minutes, in the middle</span></label
      >
      <label class="field"
        >Begin at
        <select :value="gateOf(day.from)" data-begin @change="begin">
          <option value="">the middle of the trees</option>
          <option value="here">where I am</option>
          <option v-for="g in gates" :key="g.name" :value="g.name">{{ g.name }}</option>
        </select></label
      >
      <label class="field"
        >End at
        <select :value="gateOf(day.to)" data-end @change="end">
          <option value="">where it begins</option>
          <option v-for="g in gates" :key="g.name" :value="g.name">{{ g.name }}</option>
        </select></label
      >
      <label class="field"
        >Snow
        <select v-model="day.asked.snow">
          <option value="">as last said</option>
          <option v-for="x in vocabulary.words?.snows" :key="x.id" :value="x.id">{{ x.words }}</option>
        </select></label
      >
      <button class="press lead" :disabled="day.busy" data-plan-day>{{ plan ? 'Plan anew' : 'Plan it' }}</button>
    </form>
    <p v-if="chosen" class="small">
      Of those only: {{ chosen }}.
      <button class="press quiet" @click="Object.assign(day.asked, { status: [], home: false, text: '' })">Of all open trees</button>
    </p>
    <p v-if="lost" class="wrong" role="alert">{{ lost }}</p>
    <SaidWrong :lines="day.wrong" again @again="day.again()" />
    <template v-if="plan">
      <NextStop v-if="plan.today" :plan="plan" @anew="(at) => day.goOn(at, [])" @on="goOn" />
      <p v-for="s in plan.says" :key="s" class="straw">{{ s }}</p>
      <p v-if="plan.light.sunrise && plan.light.sunset" class="soft">
        Sunrise {{ clockThere(plan.light.sunrise) }}, sunset {{ clockThere(plan.light.sunset) }}. Colors are not to be trusted before the
        one and after the other. Chosen from {{ count(plan.open, 'open tree') }}. All times are
        {{ plan.zone ? `those of ${plan.zone}` : 'by this device’s clock' }}.
      </p>
      <p v-if="plan.unplaced?.length" class="small" data-unplaced>
        {{ count(plan.unplaced.length, 'open tree') }} without a position, not in the plan:
        <template v-for="(t, i) in plan.unplaced.slice(0, 12)" :key="t.id"
          ><template v-if="i">, </template><RouterLink :to="`/trees/${t.id}`">{{ t.tag }}</RouterLink></template
        ><template v-if="plan.unplaced.length > 12"> and {{ plan.unplaced.length - 12 }} more</template>.
      </p>
      <section v-for="(c, i) in plan.crews" :key="i" class="halves" :aria-label="`Crew ${i + 1}`">
        <div>
          <h2 v-if="(plan.crews?.length ?? 0) > 1">Crew {{ i + 1 }}</h2>
          <p data-day-sum>
            {{ count(c.stops?.length ?? 0, 'tree') }}, {{ figure(c.worth_bits) }} bits; back at <strong>{{ clockThere(c.back) }}</strong>
          </p>
          <p v-if="c.why" class="straw">{{ c.why }}</p>
          <ol class="rows">
            <li v-for="(s, at) in c.stops" :key="s.id">
              <p>
                <strong>{{ clockThere(s.arrive) }}</strong> <RouterLink :to="`/trees/${s.id}`">{{ s.tag }}</RouterLink>
                <span class="small soft"> {{ s.stand }}; {{ s.way }}, {{ s.paces }} paces</span>
              </p>
              <p class="small">{{ s.between }}. {{ s.look }}</p>
              <p class="bar">
                <button class="press quiet" :aria-pressed="day.pin.includes(s.id)" @click="pin(s.id)">
                  {{ day.pin.includes(s.id) ? 'Pinned' : 'Pin' }}
                </button>
                <button class="press quiet" @click="day.leaveOut(s.id)">Leave out</button>
                <template v-if="plan.crews?.length === 1">
                  <button class="press quiet" :disabled="at === 0" :aria-label="`${s.tag} earlier`" data-earlier @click="day.move(at, -1)">
                    <i class="pi pi-arrow-up" aria-hidden="true"></i>
                  </button>
                  <button
                    class="press quiet"
                    :disabled="at === (c.stops?.length ?? 0) - 1"
                    :aria-label="`${s.tag} later`"
                    @click="day.move(at, 1)"
                  >
                    <i class="pi pi-arrow-down" aria-hidden="true"></i>
                  </button>
                </template>
                <span class="small soft">{{ s.because }}</span>
              </p>
              <p v-if="s.rest" class="small">Then a break of {{ count(plan.break_min, 'minute') }}.</p>
            </li>
          </ol>
          <p class="soft small">{{ capital(c.way_back) }} back.</p>
        </div>
        <TerrainMap v-if="land" :key="plan.date + i" class="way" :land="land" :dots="[]" :route="routeOf(c)" />
      </section>
      <p class="small soft">
        Ways are straight lines, walked by Tobler’s function off paths; streams are crossed where a ford or track is drawn, or gone round.
        Go round cliffs and what is closed. A visit is counted as what its best look promises, and takes two minutes and three such looks.
      </p>
    </template>
  </PageFrame>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(11rem, 100%), 1fr));
  gap: 0.75rem;
  align-items: start;
}

form > .lead {
  margin-top: 1.75rem; /* beside the fields, not their names */
}

.halves {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: 1.25rem;
  align-items: start;
}

.files,
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
}

.rows li {
  padding: 0.375rem 0.75rem;
}

.way {
  position: sticky;
  top: 0.5rem;
}

.straw {
  padding: 0.25rem 0.5rem;
  background: var(--pt-straw);
  color: var(--pt-straw-ink);
}

h2 {
  font-size: 1.125rem;
}

@media (max-width: 800px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
