<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import { ref, watch } from 'vue'
import type { Schemas } from '../api/client'
import PageFrame from '../frame/PageFrame.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { useSession } from '../frame/session'
import { dayWords } from '../frame/words'
import { useChecks } from './checks'
import PlanCheck from './PlanCheck.vue'
import SpringAnswer from './SpringAnswer.vue'

const session = useSession()
const checks = useChecks()
const confirm = useConfirm()

/** All at once, or what comes later moves what is about to be pressed. */
const came = ref(false)
async function fetchAll() {
  await Promise.all([checks.load(), session.checking ? null : checks.prove()])
  came.value = true
}
watch(() => session.checking, fetchAll, { immediate: true }) // somebody's own check may end while they look on

function how(c: Schemas['CheckCruise']): string {
  if (c.came) return `ended ${dayWords(c.ended!)}: ${c.named} of ${c.plan.trees} named again`
  return c.ended ? `given up ${dayWords(c.ended)}` : `goes on: ${c.named} of ${c.plan.trees} named`
}

function drop(c: Schemas['CheckCruise']) {
  confirm.require({
    header: `Give up “${c.plan.name}”?`,
    message: `What ${c.plan.checker} entered in it joins nothing, and the book is open to them again.`,
    acceptLabel: 'Give it up',
    rejectProps: { label: 'Let it go on', severity: 'secondary', outlined: true },
    defaultFocus: 'reject',
    accept: () => void checks.drop(c.id),
  })
}
</script>

<template>
  <PageFrame title="Check cruises" hint="What the crew’s names are worth">
    <SaidWrong :lines="[...checks.refused, ...checks.wrong]" />
    <template v-if="session.checking && checks.mine">
      <section class="panel" aria-label="Your check">
        <h2>{{ checks.mine.plan.name }}</h2>
        <p>
          {{ checks.mine.plan.trees }} trees that others named. Look at each as if nobody had, score what you see and write down the name
          you would give. The <RouterLink to="/">list</RouterLink>, the <RouterLink to="/worklist">worklist</RouterLink> and the
          <RouterLink to="/map">map</RouterLink> show these trees alone.
        </p>
        <ol class="rows">
          <li v-for="t in checks.mine.plan.drawn" :key="t.id">
            <RouterLink :to="`/trees/${t.id}`">{{ t.tag }}</RouterLink> <span class="soft small">{{ t.stand }}</span>
          </li>
        </ol>
      </section>
    </template>
    <template v-else-if="came">
      <SpringAnswer :spring="checks.spring" :wrong="checks.unproved" />
      <section class="panel" aria-label="Check cruises">
        <h2>Check cruises</h2>
        <p class="soft">
          Somebody who named none of these trees names them again, without seeing the names. How far the two agree says what one name is
          worth.
        </p>
        <ul v-if="checks.all.length" class="rows">
          <li v-for="c in checks.all" :key="c.id" class="one" :data-check="c.id">
            <span>
              <RouterLink v-if="c.came" class="to" :to="`/checks/${c.id}`">{{ c.plan.name }}</RouterLink>
              <strong v-else>{{ c.plan.name }}</strong>
              <br /><span class="soft small">{{ c.plan.checker }}; {{ how(c) }}</span>
            </span>
            <button v-if="!c.ended && session.may('lead')" class="press" @click="drop(c)">Give it up</button>
          </li>
        </ul>
        <p v-else>None yet.</p>
      </section>
      <PlanCheck v-if="session.may('lead')" />
    </template>
  </PageFrame>
</template>

<style scoped>
h2 {
  font-size: 1.25rem;
}

.panel {
  display: grid;
  gap: 0.5rem;
}

.rows li {
  padding: 0.375rem 0.75rem;
}

.one {
  display: flex;
  justify-content: space-between;
  gap: 1rem;
  align-items: center;
}

.to {
  display: inline-flex;
  align-items: center;
  min-height: var(--pt-press);
}
</style>
