<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { count } from '../frame/words'
import { useAway } from './away'
import { progress } from './device'
import OwnDevices from './OwnDevices.vue'
import { bytes } from './words'

const away = useAway()
const chosen = ref<string[]>(away.status?.tracts ?? [])
const photos = ref(false)
const device = ref(away.status?.name || 'My device')
const secure = window.isSecureContext
onMounted(async () => {
  if (!secure) return
  await away.weigh()
  if (away.weights.length === 1) chosen.value = [away.weights[0].tract]
})

const heavy = computed(() => {
  const all = away.weights.filter((w) => chosen.value.includes(w.tract))
  return all.reduce((sum, w) => sum + w.bytes + (photos.value ? w.photo_bytes : 0) + w.photos * 30_000, 0)
})
const part = computed(() => (progress.value?.all ? progress.value.done / progress.value.all : 0))
</script>

<template>
  <section class="panel" aria-label="Take along">
    <h2>{{ away.on ? 'Take other tracts along, or the same anew' : 'Take along' }}</h2>
    <p v-if="!secure" class="wrong">
      This page is not served securely, so the browser keeps nothing for the woods. Whoever runs the program can make a certificate with
      <code>palethicket certificate</code>, name a proxy that has one, or open the page on the machine that serves it.
    </p>
    <template v-else>
      <p class="soft">
        The trees, their looks and photographs, map, lists and flora then lie on this device, and everything works without a signal. What
        you enter goes home by itself when there is one.
      </p>
      <OwnDevices v-if="!away.on" :devices="away.devices" />
      <SaidWrong :lines="away.wrong" />
      <fieldset v-if="away.weights.length" :disabled="Boolean(away.taking)">
        <legend>Tracts</legend>
        <label v-for="w in away.weights" :key="w.tract" class="tract">
          <input v-model="chosen" type="checkbox" :value="w.tract" :data-tract="w.tract" />
          <strong>{{ w.tract }}</strong>
          <span class="soft small"
            >{{ count(w.trees, 'tree') }}, about {{ bytes(w.bytes)
            }}<template v-if="w.photos">; {{ count(w.photos, 'photograph') }}, whole {{ bytes(w.photo_bytes) }}</template></span
          >
        </label>
        <label class="tract"
          ><input v-model="photos" type="checkbox" data-whole /> Photographs whole, not only small
          <span class="soft small">Small ones always come along.</span></label
        >
        <label class="field">What this device is called <input v-model="device" maxlength="80" required data-device /></label>
      </fieldset>
      <div v-if="away.taking" class="going">
        <p role="status">
          {{ away.taking }} <template v-if="progress">{{ bytes(progress.done) }} of {{ bytes(progress.all) }}</template>
        </p>
        <progress :value="part" max="1" aria-label="How far it is"></progress>
        <button class="press" @click="away.stop()">Stop</button>
      </div>
      <p v-else-if="away.weights.length">
        <button class="press lead" data-take :disabled="!chosen.length || !device.trim()" @click="away.take(chosen, photos, device.trim())">
          Take along
        </button>
        <span class="soft small">
          {{ chosen.length ? `About ${bytes(heavy)}` : 'Choose at least one tract' }}, and the program<template v-if="away.program"
            >, {{ bytes(away.program.bytes) }}</template
          >, once.
        </span>
      </p>
    </template>
  </section>
</template>

<style scoped>
section,
fieldset,
.going {
  display: grid;
  gap: 0.5rem;
}

fieldset {
  border: 0;
  padding: 0;
}

legend {
  padding: 0;
  font-weight: 700;
}

.tract {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 0.75rem;
  align-items: center;
  min-height: var(--pt-press);
}

input[type='checkbox'] {
  accent-color: var(--pt-spruce);
  width: 1.5rem;
  height: 1.5rem;
}

progress {
  width: 100%;
  height: 1rem;
  accent-color: var(--pt-spruce);
}
</style>
