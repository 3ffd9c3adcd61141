<script setup lang="ts">
import { computed } from 'vue'
import { api } from '../api/client'
import { useAsk } from '../frame/ask'
import SaidWrong from '../frame/SaidWrong.vue'
import { useSession } from '../frame/session'
import { useVocabulary } from '../frame/vocabulary'
import WeighingAgain from '../frame/WeighingAgain.vue'
import { useWeighing } from '../frame/weighing'
import { percent } from '../frame/words'
import { isAway } from '../woods/device'

const vocabulary = useVocabulary()
const session = useSession()
const { wrong, ask } = useAsk()
const { weighing, follow } = useWeighing()
const bars = computed(() => vocabulary.words?.bars)
const step = 0.05
const choices = computed(() => {
  const b = bars.value
  if (!b) return []
  return Array.from({ length: Math.round((b.most - b.least) / step) + 1 }, (_, i) => Number((b.least + i * step).toFixed(2)))
})
const mine = computed(() => session.may('lead') && !isAway())
const same = (a: number, b: number) => Math.abs(a - b) < 0.001

async function choose(probably: number) {
  const { ok } = await ask(api.PUT('/api/bars', { body: { probably } }))
  if (ok) await Promise.all([vocabulary.load(), follow()])
}
</script>

<template>
  <section v-if="bars" class="panel" aria-label="How sure a name must be">
    <h2>How sure a name must be</h2>
    <p>
      <strong>Named</strong>:
      <template v-for="(b, i) in bars.named" :key="b.rank">{{ i ? ', ' : '' }}{{ b.words }} from {{ percent(b.p) }}</template
      >. <strong>Probably</strong>: short of that, from {{ percent(bars.probably) }}; so it is written on every page, and <em>cf.</em> in
      files. Below it, <strong>not yet</strong>.
    </p>
    <div v-if="mine" class="choice" role="group" aria-label="Probably from">
      <strong>Probably from</strong>
      <button v-for="c in choices" :key="c" class="press" :data-probably-from="c" :aria-pressed="same(c, bars.probably)" @click="choose(c)">
        {{ percent(c) }}
      </button>
    </div>
    <p class="soft small">
      {{
        mine
          ? `For everybody who works in this book; trees are weighed again for it. Usual are ${percent(bars.usual)}.`
          : 'A lead of the crew sets it, at home, for everybody.'
      }}
    </p>
    <WeighingAgain :weighing="weighing" which="the trees" />
    <SaidWrong :lines="wrong" />
  </section>
</template>
