<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import { computed } from 'vue'
import { api } from '../api/client'
import { saveAs } from '../frame/save'
import { capital, clock, count, dayWords, entries } from '../frame/words'
import { useAway } from './away'
import { bytes } from './words'

const away = useAway()
const confirm = useConfirm()
const s = computed(() => away.status)
const met = computed(() => (s.value?.met ? `${dayWords(s.value.met)}, ${clock(s.value.met)}` : 'not yet'))

/** All that home does not have, to be kept elsewhere. */
async function save() {
  const { data } = await api.GET('/api/away/held')
  if (data) saveAs(new Blob([JSON.stringify(data, null, 1)], { type: 'application/json' }), 'not-home-yet.json')
}

function clear() {
  const n = away.count
  const refused = s.value?.refused?.length ?? 0
  confirm.require({
    header: 'Clear this device?',
    message:
      n + refused
        ? `${entries(n + refused)} ${n + refused === 1 ? 'is' : 'are'} not home yet (${(s.value?.waiting ?? [])
            .map((w) => `${w.count} of ${w.by || 'nobody named'}`)
            .concat(refused ? [`${refused} refused`] : [])
            .join(', ')}) and would be lost. Send them first, or save them to a file.`
        : 'Everything that was entered here is home. The tracts, the book and the program leave this device.',
    acceptLabel: n + refused ? 'Clear it, and lose them' : 'Clear it',
    rejectProps: { label: 'Keep it', severity: 'secondary', outlined: true },
    defaultFocus: 'reject',
    accept: () => void away.clear(),
  })
}
</script>

<template>
  <section v-if="s" class="panel" aria-label="How it stands">
    <h2>{{ s.name }}: {{ s.tracts?.join(', ') }}</h2>
    <p role="status" class="now">
      <strong v-if="s.busy">Meeting home…</strong>
      <strong v-else-if="s.trouble" class="wrong">{{ capital(s.trouble) }}</strong>
      <strong v-else-if="s.online">Home is in reach.</strong>
      <strong v-else>Home is out of reach; what you enter is kept here.</strong>
    </p>
    <dl>
      <dt>Last met</dt>
      <dd data-met>{{ met }}</dd>
      <dt>Not home yet</dt>
      <dd data-waiting>{{ away.count ? entries(away.count - s.pictures) : 'Nothing: all of it is home' }}</dd>
      <template v-for="w in s.waiting" :key="w.by">
        <dt class="of">{{ w.by || 'Nobody named' }}</dt>
        <dd>
          {{ entries(w.count) }}<span v-if="w.needs" class="wrong">; {{ w.needs }}</span>
        </dd>
      </template>
      <template v-if="s.pictures">
        <dt>Photographs to send</dt>
        <dd>{{ count(s.pictures, 'photograph') }}</dd>
      </template>
      <dt>Taken along</dt>
      <dd>{{ dayWords(s.since) }}, photographs {{ s.photos ? 'whole' : 'small' }}</dd>
      <dt>Book on this device</dt>
      <dd>
        {{ bytes(away.size) }}<template v-if="away.room.all">; {{ bytes(away.room.all - away.room.used) }} left</template>
      </dd>
      <dt>Kept for good</dt>
      <dd>
        {{
          away.lasting
            ? 'Yes: the browser said that it will not clear it'
            : 'No: the browser may clear it when room gets short. Install the app, or meet home often'
        }}
      </dd>
      <dt>Program</dt>
      <dd>{{ s.version }}</dd>
    </dl>
    <template v-if="s.refused?.length">
      <h3>Home did not take {{ entries(s.refused.length) }}</h3>
      <ul class="rows">
        <li v-for="r in s.refused" :key="r.id" data-refused>
          <RouterLink v-if="r.tree" :to="{ name: 'tree', params: { id: r.tree } }">{{ r.tag || 'Its tree' }}</RouterLink>
          <span v-else>{{ r.kind }}</span>
          <span
            ><span
              >{{ capital(r.kind) }}<template v-if="r.by">, by {{ r.by }}</template></span
            >
            <span class="small wrong">{{ capital(r.why) }}</span></span
          >
        </li>
      </ul>
    </template>
    <p class="row">
      <button class="press lead" data-meet :disabled="s.busy" @click="away.meet()">Send now</button>
      <button v-if="s.refused?.length" class="press" data-again @click="away.tellAgain()">Send the refused again</button>
      <button class="press" data-save @click="save">Save everything to a file</button>
      <button class="press" data-clear @click="clear">Clear this device…</button>
    </p>
  </section>
  <p v-else>Opening the device’s book…</p>
</template>

<style scoped>
section {
  display: grid;
  gap: 0.75rem;
}

dl {
  display: grid;
  grid-template-columns: 12rem minmax(0, 1fr);
  gap: 0.25rem 1rem;
  margin: 0;
}

dt {
  color: var(--pt-soft);
}

dt.of {
  padding-left: 1rem;
}

dd {
  margin: 0;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

li {
  display: grid;
  grid-template-columns: 7rem minmax(0, 1fr);
  gap: 0.25rem 1rem;
  align-items: center;
  padding: 0.5rem 1rem;
}

li > span:last-child {
  display: grid;
}

@media (max-width: 600px) {
  dl,
  li {
    grid-template-columns: minmax(0, 1fr);
  }

  dt {
    margin-top: 0.25rem;
  }
}
</style>
