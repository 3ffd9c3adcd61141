<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api, type Member, type Schemas } from '../api/client'
import { useAsk } from '../frame/ask'
import { useSession } from '../frame/session'
import { count, percent } from '../frame/words'
import { useStands } from '../trees/stands'
import { useChecks } from './checks'

/** Plans a check: first what would be drawn is shown, then it is given to its checker. */
const session = useSession()
const checks = useChecks()
const stands = useStands()
const crew = ref<Member[]>([])
const { ask } = useAsk()
const fresh = ref({
  name: '',
  tract: '',
  stand: '',
  checker: '',
  by: 'stand' as 'stand' | 'name',
  expected: 90,
  half: 10,
  trees: '',
  seed: '',
})
const drawn = ref<Schemas['CheckPlan'] | null>(null)
const given = ref('')
const alone = computed(() => !session.session?.needed)

const asked = (): Schemas['NewCheck'] => ({
  name: fresh.value.name.trim(),
  checker: fresh.value.checker,
  by: fresh.value.by,
  expected: fresh.value.expected / 100,
  half: fresh.value.half / 100,
  ...(fresh.value.tract ? { tract: fresh.value.tract } : {}),
  ...(fresh.value.stand ? { stand: fresh.value.stand } : {}),
  ...(Number(fresh.value.trees) ? { trees: Number(fresh.value.trees) } : {}),
  ...(Number(fresh.value.seed) ? { seed: Number(fresh.value.seed) } : {}),
})

async function draw() {
  given.value = ''
  drawn.value = await checks.draw(asked())
}

async function give() {
  if (!drawn.value) return
  if (!(await checks.plan({ ...asked(), seed: drawn.value.seed!, trees: drawn.value.trees! }))) return
  given.value =
    `${fresh.value.checker} has it: the trees are on their list, worklist and map, ` +
    'and the rest of the book is closed to them until it is finished.'
  drawn.value = null
}

onMounted(async () => {
  void stands.load()
  const { data } = await ask(api.GET('/api/crew'))
  crew.value = (data ?? []).filter((m) => !m.closed && m.role !== 'reader')
})
</script>

<template>
  <section class="panel" aria-label="Plan a check">
    <h2>Plan a check</h2>
    <p v-if="alone" class="soft">
      A check is blind only where people sign in. Serve the book to the crew, with an account for each, and plan it there; here you can see
      what would be drawn.
    </p>
    <form @submit.prevent="draw" @input="drawn = null">
      <label class="field">Name <input v-model="fresh.name" required maxlength="80" placeholder="November check" data-check-name /></label>
      <label class="field"
        >Who names them again
        <select v-if="crew.length" v-model="fresh.checker" required data-checker>
          <option v-for="m in crew" :key="m.id" :value="m.name">{{ m.name }}</option>
        </select>
        <input v-else v-model="fresh.checker" required maxlength="80" placeholder="Somebody who named none of them" data-checker />
      </label>
      <label class="field"
        >Tract
        <select v-model="fresh.tract" @change="fresh.stand = ''">
          <option value="">all</option>
          <option v-for="t in stands.tracts" :key="t" :value="t">{{ t }}</option>
        </select></label
      >
      <label class="field"
        >Stand
        <select v-model="fresh.stand" :disabled="!fresh.tract">
          <option value="">the whole tract</option>
          <option v-for="s in stands.standsOf(fresh.tract)" :key="s" :value="s">{{ s }}</option>
        </select></label
      >
      <label class="field"
        >Drawn in parts by
        <select v-model="fresh.by">
          <option value="stand">stand</option>
          <option value="name">name given</option>
        </select></label
      >
      <label class="field"
        >Agreement expected, % <input v-model.number="fresh.expected" type="number" min="50" max="99" required inputmode="numeric"
      /></label>
      <label class="field"
        >To be known to ± % <input v-model.number="fresh.half" type="number" min="1" max="50" required inputmode="numeric"
      /></label>
      <label class="field"
        >Trees <input v-model="fresh.trees" type="number" min="1" max="2000" placeholder="as many as that asks for" inputmode="numeric"
      /></label>
      <label class="field"
        >Seed <input v-model="fresh.seed" type="number" min="1" max="4294967295" placeholder="by chance" inputmode="numeric"
      /></label>
      <button class="press" type="submit" :disabled="checks.busy" data-draw-check>See what would be drawn</button>
    </form>
    <div v-if="drawn" class="drawn" data-drawn>
      <p>
        {{ count(drawn.trees!, 'tree') }} of {{ drawn.there }} that others named; ±{{ percent(drawn.half) }} asks for {{ drawn.needed }}.
        These give ±{{ percent(drawn.gives) }} at 95 %. Seed {{ drawn.seed }}.
      </p>
      <p v-if="drawn.says" class="straw">{{ drawn.says }}.</p>
      <table>
        <thead>
          <tr class="small soft">
            <th scope="col">{{ drawn.by === 'stand' ? 'Stand' : 'Name given' }}</th>
            <th scope="col" class="end">Trees</th>
            <th scope="col" class="end">Drawn</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in drawn.strata" :key="s.name">
            <td>{{ s.name }}</td>
            <td class="end">{{ s.trees }}</td>
            <td class="end">{{ s.drawn }}</td>
          </tr>
        </tbody>
      </table>
      <button class="press lead" :disabled="checks.busy || alone" data-give-check @click="give">Give it to {{ fresh.checker }}</button>
    </div>
    <p v-if="given" role="status">{{ given }}</p>
  </section>
</template>

<style scoped>
.panel,
.drawn {
  display: grid;
  gap: 0.75rem;
  justify-items: start;
}

form {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(15rem, 100%), 1fr));
  gap: 0.75rem;
  align-items: end;
  width: 100%;
}

h2 {
  font-size: 1.25rem;
}

th,
td {
  padding: 0.125rem 1rem 0.125rem 0;
  text-align: left;
}

.end {
  text-align: right;
}

.straw {
  padding: 0.25rem 0.5rem;
  background: var(--pt-straw);
  color: var(--pt-straw-ink);
}
</style>
