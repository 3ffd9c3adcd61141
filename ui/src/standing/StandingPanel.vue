<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import { useTree } from '../desk/tree'
import { capital, dayWords, percent } from '../frame/words'
import { useVocabulary } from '../frame/vocabulary'
import GiveName from './GiveName.vue'
import HereRanking from './HereRanking.vue'
import OwnErrors from './OwnErrors.vue'
import NextLooks from './NextLooks.vue'
import StandingLadder from './StandingLadder.vue'
import TwoLooks from './TwoLooks.vue'

const WhyDialog = defineAsyncComponent(() => import('./WhyDialog.vue'))
const emit = defineEmits<{ open: []; drawn: [] }>()
const tree = useTree()
const vocabulary = useVocabulary()
const bar = (rank: string) => vocabulary.words?.bars.named?.find((b) => b.rank === rank)?.p ?? 1
const result = computed(() => tree.view?.result)
/** How sure the name is: what the panel's colour says. */
const step = computed(() => {
  const r = result.value
  if (r?.probably.settled) return 'probably'
  return r?.named.settled ? 'named' : r?.named.rank === 'unlisted' ? 'unlisted' : 'not-yet'
})
const scored = computed(() => tree.view?.looks?.some((l) => l.scores?.length) ?? false)
/** The name that was seen in leaf, flower or fruit, which is surer than any winter's look. */
const confirmed = computed(() => (tree.view?.names?.[0]?.seen ? tree.view.names[0] : undefined))
const proof = computed(() => vocabulary.words?.confirms?.find((c) => c.id === confirmed.value?.seen)?.words)
const why = ref('') // the taxon whose case is open
const checks = computed(() => (result.value?.check_again ?? []).map((c) => ({ ...c, id: tree.view?.looks?.[c.look]?.id ?? '' })))

function check(id: string, character: string) {
  tree.openLook = id
  tree.wanted = character
  emit('open')
}
</script>

<template>
  <aside v-if="tree.view?.fault" aria-label="How the tree stands">
    <p class="warn" role="alert">
      This tree cannot be weighed: {{ tree.view.fault }}. Take back what is wrong in its
      <RouterLink :to="{ name: 'story', params: { id: tree.view.tree.id } }">story</RouterLink>.
    </p>
  </aside>
  <aside v-else-if="result" aria-label="How the tree stands">
    <div v-if="confirmed" class="name" data-step="named" data-confirmed>
      <p class="big">{{ capital(confirmed.words) }}</p>
      <p class="small">Confirmed: {{ proof }}, {{ dayWords(confirmed.at) }}. Winter’s looks say:</p>
    </div>
    <div
      class="name"
      :class="{ second: confirmed }"
      :data-rank="result.named.rank"
      :data-step="scored ? step : 'not-yet'"
      aria-live="polite"
    >
      <template v-if="scored">
        <p class="big">{{ capital(result.named.words) }}</p>
        <p v-if="result.named.name" class="small">
          <span class="sci">{{ result.named.name }}</span> · {{ percent(result.named.posterior) }}, {{ result.named.rank_words }}
        </p>
        <p v-if="result.probably.settled" class="small" data-probably>
          Probably <span class="sci">{{ result.probably.name }}</span> · {{ percent(result.probably.posterior) }},
          {{ result.probably.rank_words }}; {{ percent(bar(result.probably.rank)) }} would name it
        </p>
        <p v-else-if="result.named.rank === 'undetermined'" class="small">Not sure enough yet to name it. Look at one more thing.</p>
        <p v-if="result.named.rank !== 'undetermined'" class="small soft">{{ result.fit_words }}</p>
      </template>
      <template v-else>
        <p class="big">Nothing scored yet</p>
        <p class="small soft">Before any look, the trees stand as common as they are in the region.</p>
      </template>
    </div>
    <ul v-if="result.warnings?.length" aria-label="Look again">
      <li v-for="w in result.warnings" :key="w.words" class="warn small" :data-warning="w.kind">{{ w.words }}</li>
    </ul>
    <StandingLadder :ranking="result.ranking ?? []" :credible="result.credible?.length ?? 1" @why="why = $event" />
    <button v-if="scored" class="press drawn" data-drawn @click="emit('drawn')">See them drawn side by side</button>
    <NextLooks :next="result.next ?? []" @open="emit('open')" />
    <TwoLooks v-if="scored && result.next?.length" :tree="tree.view!.tree.id" :scored="tree.view!.last" />
    <section v-if="checks.length" aria-label="Check again">
      <h3>Check again</h3>
      <ul>
        <li v-for="c in checks" :key="c.id + c.character">
          <button class="press check small" @click="check(c.id, c.character)">
            <span
              >{{ capital(c.name) }} <span class="soft">({{ c.from_words.toLowerCase() }})</span></span
            >
            <span class="soft">without it, {{ c.english }} leads</span>
          </button>
        </li>
      </ul>
    </section>
    <GiveName />
    <HereRanking v-if="scored" :tree="tree.view!.tree.id" :scored="tree.view!.last" />
    <OwnErrors v-if="scored" :tree="tree.view!.tree.id" :scored="tree.view!.last" />
    <section v-if="result.cautions?.length" class="cautions" aria-label="Cautions">
      <h3>Take care</h3>
      <ul>
        <li v-for="c in result.cautions" :key="c.words" class="small">{{ c.words }}</li>
      </ul>
      <p class="small soft">Local rules and trained people come first.</p>
    </section>
    <WhyDialog v-if="why" :taxon="why" @close="why = ''" @open="emit('open')" />
  </aside>
</template>

<style scoped>
aside {
  display: grid;
  gap: 0.75rem;
  align-content: start;
}

h3 {
  font-size: 1rem;
  margin-bottom: 0.375rem;
}

.second .big {
  font-size: 1rem;
}

.name {
  padding: 0.5rem 0.75rem;
  border-left: 5px solid var(--pt-spruce);
  border-radius: 6px;
  background: var(--pt-spruce-pale);
}

.name[data-step='probably'] {
  border-left-style: dashed;
}

.name[data-step='not-yet'] {
  border-color: var(--pt-straw-ink);
  background: var(--pt-straw);
  color: var(--pt-straw-ink);
}

.name[data-step='not-yet'] .soft {
  color: inherit;
}

.name[data-step='unlisted'] {
  border-color: var(--pt-sumac);
  background: var(--pt-sumac-pale);
}

.big {
  font-size: 1.25rem;
  font-weight: 700;
  line-height: 1.2;
}

.drawn {
  width: 100%;
}

.warn {
  padding: 0.375rem 0.75rem;
  border-left: 5px solid var(--pt-sumac);
  border-radius: 6px;
  background: var(--pt-sumac-pale);
}

.warn + .warn {
  margin-top: 0.25rem;
}

.check {
  display: grid;
  width: 100%;
  text-align: left;
  margin-bottom: 0.25rem;
}

.cautions {
  border-top: 1px solid var(--pt-line);
  padding-top: 0.5rem;
}
</style>
