<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Schemas } from '../api/client'
import PageFrame from '../frame/PageFrame.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { capital, clock, figure } from '../frame/words'
import KeepMeasured from './KeepMeasured.vue'
import { useSums } from './sums'

const sums = useSums()
const route = useRoute()
/** The tree that is measured, where one came from it. */
const tree = computed(() => (typeof route.query.tree === 'string' ? route.query.tree : ''))
const given = ref<Record<string, string>>({})
onMounted(sums.load)
watch(
  () => sums.sum,
  (sum) => {
    const first = (sum?.inputs ?? []).filter((i) => i.of?.length).map((i) => [i.name, i.of![0]])
    given.value = { ...Object.fromEntries(first), ...sums.typed[sums.chosen] }
    sums.result = null
  },
  { immediate: true },
)

/** Which input a refusal names, so that it is shown there and the hand goes there. */
const at = computed(() => sums.result?.error?.split(':')[0] ?? '')
async function work() {
  await sums.work({ ...given.value })
  await nextTick()
  if (sums.result?.error) document.getElementById(`sum-${at.value}`)?.focus()
  else document.querySelector('[data-sum-result]')?.scrollIntoView({ block: 'nearest' })
}

function here(name: string, kind: string) {
  navigator.geolocation.getCurrentPosition((p) => {
    const text = `${p.coords.latitude.toFixed(6)}, ${p.coords.longitude.toFixed(6)}`
    given.value[name] = kind === 'places' && given.value[name] ? `${given.value[name]}; ${text}` : text
  })
}
const isPlace = (i: Schemas['SumInput']) => i.kind === 'place' || i.kind === 'places'
const hint = (i: Schemas['SumInput']) => (sums.unit(i) ? `${i.example}; figures alone are ${sums.unit(i)}` : i.example)
const part = (name: string) => capital(name.replace(/_(m|m2|cm|percent|degrees|sd)$/, ' ($1)').replace(/_/g, ' '))
const parts = computed(() => Object.entries(sums.result?.parts ?? {}))
</script>

<template>
  <PageFrame title="Measure" hint="The sums of the tally card, with their errors">
    <div class="halves">
      <form class="panel" @submit.prevent="work">
        <label class="field" for="sum"
          >Sum
          <select id="sum" v-model="sums.chosen" data-sum>
            <option v-for="s in sums.all" :key="s.id" :value="s.id">{{ s.words }}</option>
          </select>
        </label>
        <template v-if="sums.sum">
          <label v-for="i in sums.sum.inputs" :key="i.name" class="field" :for="`sum-${i.name}`"
            >{{ i.words }}<template v-if="i.optional"> (if so)</template>
            <select v-if="i.of?.length" :id="`sum-${i.name}`" v-model="given[i.name]">
              <option v-for="o in i.of" :key="o" :value="o">{{ o }}</option>
            </select>
            <span v-else class="typed">
              <input
                :id="`sum-${i.name}`"
                v-model="given[i.name]"
                autocomplete="off"
                maxlength="2000"
                :inputmode="i.kind === 'number' || i.kind === 'count' ? 'decimal' : undefined"
                :aria-invalid="at === i.name"
                :aria-describedby="`hint-${i.name}`"
                :data-input="i.name"
              />
              <button v-if="isPlace(i)" type="button" class="press" @click="here(i.name, i.kind)">Here</button>
            </span>
            <span :id="`hint-${i.name}`" class="small soft">{{ hint(i) }}</span>
          </label>
        </template>
        <SaidWrong :lines="sums.wrong" />
        <p v-if="sums.result?.error" class="wrong" role="alert" data-sum-wrong>{{ capital(sums.result.error) }}.</p>
        <button class="press lead" :disabled="sums.busy" data-work>Work it out</button>
      </form>
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
            :given="sums.done[0]?.given ?? ''"
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

form,
.came {
  display: grid;
  gap: 0.75rem;
}

.typed {
  display: flex;
  gap: 0.5rem;
}

.typed input {
  flex: 1;
  min-width: 0;
  min-height: 56px;
  font-size: 1.25rem;
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  padding: 0 0.75rem;
  background: var(--pt-snow);
}

.typed input[aria-invalid='true'] {
  border-color: var(--pt-wrong, #a12b2b);
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
