<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import PageFrame from '../frame/PageFrame.vue'
import PrintButton from '../frame/PrintButton.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { capital } from '../frame/words'
import { plateAddress, useDrawings, type What } from '../plates/addresses'
import PlateImage from '../plates/PlateImage.vue'
import { useFlora } from './flora'

/** Two look-alikes for a room full of people: two individuals of each, and only what parts them. */
const route = useRoute()
const flora = useFlora()
const { digest, theme } = useDrawings()
const beside = ref<Schemas['Beside'] | null>(null)
const { wrong, ask } = useAsk()
const first = ref(1) // specimen

const taxa = computed(() =>
  [route.query.taxon]
    .flat()
    .filter((t): t is string => Boolean(t))
    .slice(0, 2),
)

async function load() {
  beside.value = null
  if (taxa.value.length < 2) return
  const { data } = await ask(api.GET('/api/flora/beside', { params: { query: { ...flora.among, taxon: taxa.value } } }))
  beside.value = data ?? null
}
watch(taxa, load, { immediate: true })

/** The drawings on which something differs; all where nothing does. */
const drawings: { what: What; words: string; of: RegExp }[] = [
  { what: 'twig', words: 'Twig', of: /^(twig|bud|scar|needle|fruit\.catkins)/ },
  { what: 'bark', words: 'Bark', of: /^(bark|sign)/ },
  { what: 'outline', words: 'Outline', of: /^form/ },
]
const marked = computed(() => beside.value?.plates?.[0]?.marked ?? [])
const shown = computed(() => {
  const some = drawings.filter((d) => marked.value.some((m) => d.of.test(m)))
  return some.length ? some : drawings
})
const address = (what: What, taxon: string, odd: number) => (theme: string) =>
  plateAddress({ what, taxon, region: flora.among.region, odd, marked: marked.value }, digest.value, theme)
const rows = computed(() => (beside.value?.rows ?? []).slice(0, 7))
</script>

<template>
  <PageFrame title="Two look-alikes" hint="Two individuals of each; only what parts them" wide>
    <template #actions>
      <div class="actions">
        <button class="press" data-others @click="first += 2">Two others of each</button>
        <PrintButton />
      </div>
    </template>
    <SaidWrong :lines="wrong" again @again="load" />
    <p v-if="taxa.length < 2" class="soft">
      Choose two trees <RouterLink to="/compare">side by side</RouterLink> first, then show them here.
    </p>
    <template v-if="beside">
      <div class="pair">
        <section v-for="p in beside.plates" :key="p.name" :aria-label="capital(p.english)">
          <h2>
            {{ capital(p.english) }} <span class="sci">{{ p.name }}</span>
          </h2>
          <div v-for="d in shown" :key="d.what" class="two" :class="d.what">
            <PlateImage
              v-for="odd in [first, first + 1]"
              :key="odd"
              :address="address(d.what, p.name, odd)"
              :theme="theme"
              :says="`${d.words} of ${p.english}, specimen ${odd}`"
            />
          </div>
        </section>
      </div>
      <p v-for="l in beside.lines" :key="l" class="line">{{ l }}</p>
      <div class="sideways" tabindex="0" role="region" aria-label="What tells the two apart">
        <table>
          <tbody>
            <tr v-for="r in rows" :key="r.character">
              <th scope="row">{{ capital(r.name) }}</th>
              <td v-for="(w, i) in r.words" :key="i">{{ w }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </template>
  </PageFrame>
</template>

<style scoped>
.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

.pair {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 1.5rem;
}

.two {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0.75rem;
  margin-bottom: 0.75rem;
}

.two :deep(img) {
  max-height: 34rem;
}

.bark :deep(img) {
  max-height: 22rem;
}

h2 {
  font-size: 1.5rem;
}

.line {
  border-left: 5px solid var(--pt-spruce);
  padding-left: 0.75rem;
  font-size: 1.25rem;
}

table {
  border-collapse: collapse;
  font-size: 1.125rem;
  background: var(--pt-snow);
}

th,
td {
  padding: 0.5rem 0.75rem;
  border: 1px solid var(--pt-line);
  text-align: left;
  vertical-align: top;
  font-weight: 400;
}

th {
  font-weight: 600;
}

@media (max-width: 640px) {
  .pair {
    grid-template-columns: 1fr;
  }
}
</style>
