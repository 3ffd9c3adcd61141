<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import PageFrame from '../frame/PageFrame.vue'
import TaxonPlate from '../plates/TaxonPlate.vue'
import { api, type TaxonPage } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { capital, times } from '../frame/words'

const props = defineProps<{ name: string }>()
const page = ref<TaxonPage | null>(null)
const { wrong, ask } = useAsk()

async function load(name: string) {
  page.value = null
  const { data } = await ask(api.GET('/api/flora/taxa/{name}', { params: { path: { name } } }))
  page.value = data ?? null
}
watch(() => props.name, load, { immediate: true })

const beside = computed(() => ({
  path: '/compare',
  query: { taxon: [props.name, ...(page.value?.alike ?? []).slice(0, 2).map((a) => a.name)] },
}))
</script>

<template>
  <PageFrame :title="page ? capital(page.english?.[0] ?? page.name) : name">
    <SaidWrong :lines="wrong" again @again="load(name)" />
    <template v-if="page">
      <section class="panel head">
        <p>
          <span class="sci big">{{ page.name }}</span>
          <span class="soft"
            >{{ page.family }}<template v-if="page.group">, {{ page.group }}</template></span
          >
        </p>
        <p>
          {{ page.english?.join(', ') }}<template v-if="page.called?.length">; {{ page.called.join('; ') }}</template>
        </p>
        <p v-if="page.also?.length" class="soft">
          once <span class="sci">{{ page.also.join(', ') }}</span>
        </p>
        <p>
          {{ capital((page.where ?? []).join('; ')) }}.
          <template v-if="page.height_m?.length">Grown trees are {{ page.height_m[0] }} to {{ page.height_m[1] }} m tall.</template>
        </p>
      </section>
      <section v-if="page.cautions?.length || page.poisonous" class="panel care" aria-label="Cautions">
        <h2>Take care</h2>
        <ul>
          <li v-if="page.poisonous">{{ page.poisonous }}</li>
          <li v-for="c in page.cautions" :key="c">{{ capital(c) }}</li>
        </ul>
        <p class="small soft">Local rules and trained people come first.</p>
      </section>
      <TaxonPlate :name="page.name" />
      <section v-if="page.alike?.length" class="panel" aria-label="Look-alikes">
        <h2>Look-alikes <RouterLink class="small" :to="beside">see them side by side</RouterLink></h2>
        <ul class="alike">
          <li v-for="a in page.alike" :key="a.name">
            <RouterLink :to="`/flora/${encodeURIComponent(a.name)}`"
              ><strong>{{ capital(a.english) }}</strong> <span class="sci">{{ a.name }}</span></RouterLink
            >
            <p>{{ a.line || `Look at ${a.by?.join(', ')}.` }}</p>
            <p class="small soft">
              A complete twig makes the right one about {{ times(a.twig_bits) }} likelier than the other, bark alone
              {{ times(a.bark_bits) }}.
              <RouterLink :to="{ path: '/pair', query: { taxon: [page.name, a.name] } }">Show two of each</RouterLink>
            </p>
          </li>
        </ul>
      </section>
      <section class="panel" aria-label="What to look for">
        <h2>What to look for, from far to near</h2>
        <div v-for="s in page.sections" :key="s.id" class="part">
          <h3>{{ s.words }}</h3>
          <dl>
            <div v-for="l in s.lines" :key="l.character">
              <dt>
                <RouterLink :to="`/characters/${l.character}`">{{ capital(l.name) }}</RouterLink>
              </dt>
              <dd>
                {{ l.words }}
                <span v-for="a in l.by_age" :key="a.age" class="soft"><br />{{ a.age }}: {{ a.words }}</span>
                <span v-if="l.note" class="soft small"><br />{{ l.note }}</span>
                <span v-if="l.source" class="soft small"> ({{ l.source }})</span>
              </dd>
            </div>
          </dl>
        </div>
      </section>
      <section class="panel" aria-label="Sources">
        <h2>Sources</h2>
        <ul class="small">
          <li v-for="s in page.sources" :key="s.key">
            {{ s.title }}<template v-if="s.note">; {{ s.note }}</template>
          </li>
        </ul>
      </section>
    </template>
  </PageFrame>
</template>

<style scoped>
.head,
.alike,
.care {
  display: grid;
  gap: 0.375rem;
}

.big {
  font-size: 1.25rem;
}

h2 {
  font-size: 1.0625rem;
  margin-bottom: 0.25rem;
}

.care {
  border-left: 5px solid var(--pt-sumac);
}

.care li {
  list-style: disc;
  margin-left: 1.25rem;
}

.alike {
  grid-template-columns: repeat(auto-fit, minmax(min(17rem, 100%), 1fr));
  gap: 0.75rem 1.5rem;
}

.alike a {
  color: inherit;
}

.part {
  margin-top: 0.625rem;
}

h3 {
  font-size: 1rem;
  color: var(--pt-bark);
  border-bottom: 1px solid var(--pt-line);
}

dl {
  margin: 0;
  columns: 22rem;
  column-gap: 2rem;
}

dl > div {
  display: grid;
  grid-template-columns: minmax(0, min(9.5rem, 40%)) minmax(0, 1fr);
  gap: 0.5rem;
  padding: 0.25rem 0;
  break-inside: avoid;
}

dt a {
  color: var(--pt-soft);
}

dd {
  margin: 0;
}
</style>
