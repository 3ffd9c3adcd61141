<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import type { Schemas } from '../api/client'
import SaidWrong from '../frame/SaidWrong.vue'
import { useSession } from '../frame/session'
import { capital, count, dayWords } from '../frame/words'
import InstrumentBar from '../instruments/InstrumentBar.vue'
import type { Reading } from '../instruments/instruments'
import OfferedReading from '../instruments/OfferedReading.vue'
import AverageFix from './AverageFix.vue'
import { useKeep } from './keep'
import SumForm from './SumForm.vue'
import { useSums } from './sums'
import { asked, begun, useWork, type Given } from './work'
import { typedAs } from './written'

/** What was measured of a tree, with its readings; each can be changed, and worked out anew. */
const props = defineProps<{ tree: string; readings: Schemas['ReadingView'][] }>()
const emit = defineEmits<{ kept: [] }>()
const session = useSession()
const route = useRoute()
const sums = useSums()
const open = ref<'' | 'height' | 'diameter' | 'position'>('')
const chosen = ref('')
const given = ref<Given>({})
const instrument = ref('')
const look = ref('')
const { result, wrong, busy, work } = useWork()
const keeping = useKeep()
onMounted(async () => {
  await sums.load()
  const wanted = route.query.measure // the desk sends one here from its diameter
  if (wanted === 'height' || wanted === 'diameter' || wanted === 'position') begin(wanted)
})

const those = computed(() => sums.all.filter((s) => s.fills === open.value))
const sum = computed(() => those.value.find((s) => s.id === chosen.value))
const of = (what: string) => props.readings.find((r) => r.fills === what)
const starts = { height: 'height-angles', diameter: 'diameter-girth', position: 'fix' }

function begin(what: 'height' | 'diameter' | 'position') {
  open.value = open.value === what ? '' : what
  result.value = null
  const was = of(what)
  chosen.value = was?.sum || starts[what]
  given.value = { ...begun(sum.value), ...readBack(was) }
  instrument.value = was?.instrument ?? ''
  look.value = was?.look ?? ''
}

/** The readings as they were typed. */
function readBack(was?: Schemas['ReadingView']): Given {
  const inputs = sums.all.find((s) => s.id === was?.sum)?.inputs ?? []
  const raw = (was?.given ?? {}) as Record<string, unknown>
  return Object.fromEntries(inputs.filter((i) => raw[i.name] !== undefined).map((i) => [i.name, typedAs(i.kind, raw[i.name])]))
}

function choose() {
  result.value = null
  given.value = { ...begun(sum.value), ...given.value }
}

const inputs = () => (sum.value ? asked(sum.value, given.value, sums.unit) : {})
const workOut = () => sum.value && work(sum.value, inputs())
async function keep() {
  if (!sum.value || !(await keeping.keep(props.tree, sum.value, inputs(), instrument.value, look.value))) return
  open.value = ''
  emit('kept')
}
/** What an instrument says outright needs no sum. */
async function readOff(r: Reading) {
  const ok = open.value === 'height' ? await keeping.high(props.tree, r) : await keeping.thick(props.tree, r, look.value)
  if (!ok) return
  open.value = ''
  emit('kept')
}
function fixes(places: string[], hdop: number[], from: string) {
  given.value = { ...given.value, positions: places.join('; '), ...(hdop.every(Boolean) ? { hdop: hdop.join('; ') } : {}) }
  instrument.value = from
  void workOut()
}
</script>

<template>
  <section class="panel" aria-label="Measured" data-readings>
    <h2>Measured</h2>
    <p v-if="!readings.length" class="soft small">No readings are kept of this tree yet.</p>
    <dl v-else>
      <template v-for="r in readings" :key="r.entry">
        <dt>{{ capital(r.fills) }}</dt>
        <dd class="small">
          <strong v-if="r.says">{{ r.says }}</strong>
          <span class="soft">{{ [r.words, r.by, dayWords(r.at)].filter(Boolean).join('; ') }}</span>
        </dd>
      </template>
    </dl>
    <p v-if="session.may('observer')" class="acts">
      <button class="press" data-measure-height :aria-pressed="open === 'height'" @click="begin('height')">
        {{ of('height') ? 'Change the height’s readings' : 'Work out its height' }}
      </button>
      <button class="press" data-measure-diameter :aria-pressed="open === 'diameter'" @click="begin('diameter')">
        {{ of('diameter') ? 'Change the diameter’s readings' : 'Work out its diameter' }}
      </button>
      <button class="press" data-measure-position :aria-pressed="open === 'position'" @click="begin('position')">
        Average its position
      </button>
      <RouterLink class="press quiet" :to="{ path: '/measure', query: { tree } }" data-measure>Other sums</RouterLink>
    </p>
    <template v-if="open && sum">
      <InstrumentBar />
      <label v-if="those.length > 1" class="field"
        >How
        <select v-model="chosen" data-how @change="choose">
          <option v-for="s in those" :key="s.id" :value="s.id">{{ s.words }}</option>
        </select></label
      >
      <AverageFix v-if="open === 'position'" @fixes="fixes" />
      <p v-if="open !== 'position'" class="small">
        <OfferedReading :kinds="[open]" :words="`as its ${open}`" @take="readOff" />
      </p>
      <SumForm
        v-model:given="given"
        v-model:instrument="instrument"
        :sum="sum"
        :error="result?.error"
        :wrong="wrong"
        :busy="busy"
        @work="workOut"
      >
        <template #acts><button type="button" class="press quiet" @click="open = ''">Leave</button></template>
      </SumForm>
      <div v-if="result && !result.error" data-came>
        <p class="value" role="status">{{ result.says }}</p>
        <p v-if="open === 'position'" class="small soft">of {{ count(result.parts?.fixes ?? 1, 'fix', 'fixes') }}</p>
        <button class="press lead" :disabled="keeping.busy.value" data-keep-readings @click="keep">Keep as its {{ open }}</button>
      </div>
      <SaidWrong :lines="keeping.wrong.value" />
    </template>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 0.5rem;
}

h2 {
  font-size: 1.125rem;
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

dl {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 0.25rem 1rem;
  margin: 0;
}

dd {
  margin: 0;
  overflow-wrap: anywhere;
}

.value {
  font-size: 1.5rem;
  font-weight: 600;
}
</style>
