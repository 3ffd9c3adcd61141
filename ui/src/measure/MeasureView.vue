<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import PageFrame from '../frame/PageFrame.vue'
import { capital, clock, figure } from '../frame/words'
import InstrumentBar from '../instruments/InstrumentBar.vue'
import KeepMeasured from './KeepMeasured.vue'
import SumForm from './SumForm.vue'
import { useSums } from './sums'
import { begun } from './work'

const sums = useSums()
const route = useRoute()
/** The tree that is measured, where one came from it. */
const tree = computed(() => (typeof route.query.tree === 'string' ? route.query.tree : ''))
const given = ref<Record<string, string>>({})
const form = ref<InstanceType<typeof SumForm>>()
const instrument = ref('')
onMounted(sums.load)
watch(
  () => sums.sum,
  (sum) => {
    given.value = { ...begun(sum), ...sums.typed[sums.chosen] }
    instrument.value = ''
    sums.result = null
  },
  { immediate: true },
)

async function work() {
  await sums.work({ ...given.value })
  await nextTick()
  if (sums.result?.error) form.value?.toWrong()
  else document.querySelector('[data-sum-result]')?.scrollIntoView({ block: 'nearest' })
}
const part = (name: string) => capital(name.replace(/_(m|m2|cm|percent|degrees|sd)$/, ' ($1)').replace(/_/g, ' '))
const parts = computed(() => Object.entries(sums.result?.parts ?? {}))
</script>

<template>
  <PageFrame title="Measure" hint="The sums of the tally card, with their errors">
    <InstrumentBar />
    <div class="halves">
      <div class="panel asked">
        <label class="field" for="sum"
          >Sum
          <select id="sum" v-model="sums.chosen" data-sum>
            <option v-for="s in sums.all" :key="s.id" :value="s.id">{{ s.words }}</option>
          </select>
        </label>
        <SumForm
          v-if="sums.sum"
          ref="form"
          v-model:given="given"
          v-model:instrument="instrument"
          :sum="sums.sum"
          :error="sums.result?.error"
          :wrong="sums.wrong"
          :busy="sums.busy"
          @work="work"
        />
      </div>
      <div class="came" aria-live="polite">
        <section v-if="sums.result && !sums.result.error" class="panel" data-sum-result>
          <p class="value">{{ sums.result.says }}</p>
          <dl v-if="parts.length">
            <template v-for="[name, value] in parts" :key="name">
              <dt>{{ part(name) }}</dt>
              <dd>{{ figure(value, 2) }}</dd>
            </template>
          </dl>
          <p v-if="sums.result.sd" class="small soft">
            ± one standard deviation, from the readings’ spread or the usual error of how they were taken.
          </p>
          <p class="small soft">{{ sums.sum?.source }}</p>
          <KeepMeasured
            v-if="tree && sums.sum"
            :key="tree"
            :tree="tree"
            :sum="sums.sum"
            :result="sums.result"
            :given="given"
            :instrument="instrument"
          />
        </section>
        <section v-if="sums.done.length" class="panel" aria-label="Worked out before">
          <h2>Worked out before</h2>
          <ul>
            <li v-for="d in sums.done" :key="d.at">
              <strong>{{ d.says }}</strong> <span class="small soft">{{ d.words.toLowerCase() }}; {{ d.given }}; {{ clock(d.at) }}</span>
            </li>
          </ul>
          <button class="press quiet" @click="sums.done = []">Clear these</button>
        </section>
      </div>
    </div>
  </PageFrame>
</template>

<style scoped>
.halves {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(20rem, 100%), 1fr));
  gap: 1.25rem;
  align-items: start;
}

.asked,
.came {
  display: grid;
  gap: 0.75rem;
}

.value {
  font-size: 1.75rem;
  font-weight: 600;
}

h2 {
  font-size: 1.125rem;
}

dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0.25rem 1rem;
  margin: 0.5rem 0;
}

dd {
  margin: 0;
}

li {
  min-height: 2rem;
}
</style>
