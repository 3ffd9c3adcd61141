<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import PageFrame from '../frame/PageFrame.vue'
import type { Among } from '../frame/vocabulary'
import TaxonPicker from '../flora/TaxonPicker.vue'
import { useSession } from '../frame/session'
import ReportButton from '../stands/ReportButton.vue'
import AmongChoice from './AmongChoice.vue'
import LabelSheet from './LabelSheet.vue'
import PaperChoice from './PaperChoice.vue'
import SheetChoice from './SheetChoice.vue'
import { sheetQuery, useSheetAsked } from './sheet'

/** All that is printed to be taken along, and what comes back on paper. */
const session = useSession()
const sheet = useSheetAsked()
const factor = useLocalStorage('palethicket.factor', '2 m2/ha')
const deck = ref<Among>({ region: '' })
const taxa = ref<string[]>([])
const search = (given: object) => new URLSearchParams(Object.entries(given).map(([k, v]) => [k, String(v)]))
const tally = computed(() => `/api/paper/tally.pdf?${search(sheetQuery(sheet.value))}`)
const gauge = computed(() => `/api/paper/gauge.pdf?${search({ factor: factor.value })}`)
const cards = computed(() => {
  const query = search(deck.value.region ? deck.value : {})
  for (const t of taxa.value) query.append('taxon', t)
  return `/api/paper/cards.pdf?${query}`
})
</script>

<template>
  <PageFrame title="Print" hint="Gloves, rain and a flat battery: what works without a screen">
    <PaperChoice class="paper" />
    <div class="sheets">
      <section class="panel" aria-labelledby="paper-key">
        <h2 id="paper-key">Key</h2>
        <p class="soft">Numbered questions that lead to a name, to just the trees that grow on your land.</p>
        <p class="foot"><RouterLink class="press lead" to="/key">Make a key</RouterLink></p>
      </section>
      <section class="panel" aria-labelledby="paper-tally">
        <h2 id="paper-tally">Tally sheet</h2>
        <p class="soft">Boxes with letters for one, four or ten trees. What is written on it is keyed in by the same letters.</p>
        <SheetChoice v-model="sheet" />
        <p class="foot">
          <ReportButton :href="tally" name="tally.pdf" words="Print (PDF)" />
          <RouterLink v-if="session.may('observer')" class="press" to="/paper/key-in" data-key-in>Key in a sheet</RouterLink>
        </p>
      </section>
      <LabelSheet />
      <section class="panel" aria-labelledby="paper-gauge">
        <h2 id="paper-gauge">Gauge card</h2>
        <p class="soft">
          Rules, slots for twigs, marks for buds, scars and husks, true to scale, and how far a stem may stand to be counted.
        </p>
        <label class="field">Factor of your gauge <input v-model="factor" maxlength="20" placeholder="2 m2/ha, 10 ft2/ac" /></label>
        <p class="foot"><ReportButton :href="gauge" name="gauge.pdf" words="Print (PDF)" /></p>
      </section>
      <section class="panel" aria-labelledby="paper-cards">
        <h2 id="paper-cards">Look-alike cards</h2>
        <p class="soft">Two to four trees that are taken for one another, drawn, with only what tells them apart; a quarter page each.</p>
        <AmongChoice v-model="deck" />
        <p v-if="taxa.length" class="picked">
          <button v-for="t in taxa" :key="t" class="press" :aria-label="`Leave ${t} out`" @click="taxa = taxa.filter((x) => x !== t)">
            {{ t }} <i class="pi pi-times" aria-hidden="true"></i>
          </button>
        </p>
        <TaxonPicker v-if="taxa.length < 4" id="card-taxon" label="Only of these trees" :without="taxa" @pick="(t) => taxa.push(t)" />
        <p class="foot">
          <ReportButton
            v-if="taxa.length !== 1"
            :href="cards"
            name="cards.pdf"
            :words="taxa.length ? 'Print the card (PDF)' : 'Print the deck (PDF)'"
          />
          <span v-else class="soft small">A card has two to four trees: choose another.</span>
        </p>
      </section>
      <section class="panel" aria-labelledby="paper-others">
        <h2 id="paper-others">Other sheets</h2>
        <p class="soft">The day’s order with bearings and paces; a quiz for a class; a stand’s report.</p>
        <p class="foot">
          <RouterLink class="press" to="/day">Day sheet</RouterLink> <RouterLink class="press" to="/practice">Quiz sheet</RouterLink>
          <RouterLink class="press" to="/stands">Report</RouterLink>
        </p>
      </section>
    </div>
  </PageFrame>
</template>

<style scoped>
.sheets {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(21rem, 100%), 1fr));
  gap: 1rem;
  align-items: start;
}

.paper {
  max-width: 18rem;
}

section {
  display: flex;
  flex-direction: column;
  gap: 0.75rem;
}

h2 {
  font-size: 1.0625rem;
}

.foot,
.picked {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

.foot {
  margin-top: auto;
}
</style>
