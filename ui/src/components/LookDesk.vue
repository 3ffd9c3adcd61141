<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useDesk } from '../stores/desk'
import { useSettings } from '../stores/settings'
import { useTree } from '../stores/tree'
import { fromHint, fromWord, sectionWord } from '../words'
import CharacterCard from './CharacterCard.vue'
import LookNote from './LookNote.vue'

const desk = useDesk()
const tree = useTree()
const settings = useSettings()
const section = ref('')
const all = ref(false)

/** What this kind of look shows, in the order of the route that was chosen. */
const parts = computed(() => ordered(desk.desk?.from?.find((f) => f.id === tree.look?.from)?.parts ?? []))
const offered = computed(() => (all.value ? ordered((desk.desk?.sections ?? []).map((s) => s.id)) : parts.value))
const cautions = computed(() =>
  (tree.view?.result.cautions ?? []).filter((c) => c.where?.includes(section.value) && !settings.understood.includes(noted(c.words))),
)
const noted = (words: string) => `${tree.view?.tree.id} ${words}`

function ordered(ids: string[]): string[] {
  const order = desk.desk?.routes?.find((r) => r.id === settings.route)?.sections ?? []
  return [...ids].sort((a, b) => order.indexOf(a) - order.indexOf(b))
}
const characters = computed(() => desk.desk?.sections?.find((s) => s.id === section.value)?.characters ?? [])
const scored = computed(() => new Map((tree.look?.scores ?? []).map((s) => [s.character, s])))
const counts = computed(() => {
  const n: Record<string, number> = {}
  for (const s of tree.look?.scores ?? []) {
    const part = s.character.split('.')[0]
    n[part] = (n[part] ?? 0) + 1
  }
  return n
})

watch(() => [tree.openLook, parts.value[0]], () => {
  all.value = false
  if (!parts.value.includes(section.value)) section.value = parts.value[0] ?? ''
}, { immediate: true })

watch(() => tree.wanted, async (id) => {
  if (!id) return
  section.value = id.split('.')[0]
  await nextTick()
  const card = document.getElementById(`card-${id}`)
  card?.scrollIntoView({ block: 'start' })
  card?.querySelector<HTMLElement>('button, input')?.focus({ preventScroll: true })
  tree.wanted = ''
}, { flush: 'post', immediate: true })
</script>

<template>
  <main>
    <template v-if="tree.look">
      <header>
        <h2>{{ fromWord(tree.look.from) }} <span class="soft small">{{ fromHint(tree.look.from) }}</span></h2>
        <div class="sections" role="group" aria-label="What to score">
          <button
            v-for="s in offered" :key="s" class="press" :aria-pressed="s === section" :data-section="s" @click="section = s"
          >
            {{ sectionWord(s) }}<span v-if="counts[s]" class="count" :aria-label="`${counts[s]} scored`">{{ counts[s] }}</span>
          </button>
          <button v-if="!all" class="press quiet soft" @click="all = true">more…</button>
        </div>
      </header>
      <p v-if="tree.rejected" class="refused" role="alert">
        Not kept: {{ tree.rejected.lines.join(' ') }}
      </p>
      <p v-for="c in cautions" :key="c.words" class="caution small">
        <span>{{ c.words }} Local rules come first.</span>
        <button class="press quiet" @click="settings.understood.push(noted(c.words))">Understood</button>
      </p>
      <LookNote :key="tree.openLook" />
      <CharacterCard
        v-for="c in characters" :id="`card-${c.id}`" :key="tree.openLook + c.id" :character="c" :score="scored.get(c.id)"
      />
    </template>
    <p v-else class="soft hint">
      Choose or add a look on the left. Score what you can see; leave the rest. Anything you did not look at counts for nothing.
    </p>
  </main>
</template>

<style scoped>
main {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.75rem;
  align-content: start;
}

header {
  position: sticky;
  top: -0.75rem;
  z-index: 1;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.375rem;
  margin: -0.75rem -0.75rem 0;
  padding: 0.5rem 0.75rem;
  background: var(--pt-snow);
  border-bottom: 1px solid var(--pt-line);
}

h2 {
  font-size: 1.0625rem;
}

.sections {
  display: flex;
  gap: 0.375rem;
  overflow-x: auto;
  padding: 3px;
  margin: -3px;
}

.sections .press {
  padding-inline: 0.625rem;
  white-space: nowrap;
  flex: none;
}

.count {
  margin-left: 0.375rem;
  padding: 0 0.4rem;
  border-radius: 999px;
  background: var(--pt-spruce);
  color: var(--pt-snow);
  font-size: 0.8125rem;
}

.refused {
  padding: 0.5rem 0.75rem;
  border-radius: 8px;
  background: var(--pt-sumac-pale);
  color: var(--pt-sumac);
}

.caution {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  justify-content: space-between;
  align-items: center;
  padding: 0.25rem 0.75rem;
  border-left: 4px solid var(--pt-sumac);
  border-radius: 6px;
}

.caution span {
  flex: 1 1 9rem;
}

.caution .press {
  flex: none;
}

.hint {
  padding: 3rem 1rem;
  text-align: center;
}
</style>
