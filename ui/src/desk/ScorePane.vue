<script setup lang="ts">
import Tab from 'primevue/tab'
import TabList from 'primevue/tablist'
import TabPanel from 'primevue/tabpanel'
import TabPanels from 'primevue/tabpanels'
import Tabs from 'primevue/tabs'
import { computed, nextTick, ref, watch } from 'vue'
import { useVocabulary } from '../frame/vocabulary'
import { useSettings } from '../frame/settings'
import { useSession } from '../frame/session'
import { useTree } from './tree'
import CharacterCard from './CharacterCard.vue'
import LookKinds from './LookKinds.vue'
import LookNote from './LookNote.vue'

const vocabulary = useVocabulary()
const session = useSession()
const tree = useTree()
const settings = useSettings()
const section = ref('')
const all = ref(false)

/** What this kind of look shows, in the order of the route that was chosen. */
const from = computed(() => vocabulary.words?.froms?.find((f) => f.id === tree.look?.from))
const parts = computed(() => ordered(from.value?.parts ?? []))
const offered = computed(() => (all.value ? ordered((vocabulary.words?.sections ?? []).map((s) => s.id)) : parts.value))
const cautions = computed(() =>
  (tree.view?.result.cautions ?? []).filter((c) => c.where?.includes(section.value) && !settings.understood.includes(noted(c.words))),
)
const noted = (words: string) => `${tree.view?.tree.id} ${words}`

function ordered(ids: string[]): string[] {
  const order = vocabulary.words?.routes?.find((r) => r.id === settings.route)?.sections ?? []
  return [...ids].sort((a, b) => order.indexOf(a) - order.indexOf(b))
}
const characters = computed(() => vocabulary.sections.get(section.value)?.characters ?? [])
const scored = computed(() => new Map((tree.look?.scores ?? []).map((s) => [s.character, s])))
const counts = computed(() => {
  const n: Record<string, number> = {}
  for (const s of tree.look?.scores ?? []) {
    const part = vocabulary.characters.get(s.character)?.section ?? ''
    n[part] = (n[part] ?? 0) + 1
  }
  return n
})

watch(
  () => [tree.openLook, parts.value[0]],
  () => {
    all.value = false
    if (!parts.value.includes(section.value)) section.value = parts.value[0] ?? ''
  },
  { immediate: true },
)
/** What is in hand is of the part that is open; a look that was opened is where the work goes on. */
watch([() => tree.openLook, section], ([look], [before]) => {
  if (tree.wanted) return
  if (look !== before || vocabulary.characters.get(tree.hand)?.section !== section.value) tree.hand = ''
  if (look !== before) void nextTick(() => document.querySelector<HTMLElement>('[data-work]')?.focus({ preventScroll: true }))
})

/** The part in hand is in sight, however many there are beside it. */
watch(
  section,
  async (id) => {
    await nextTick()
    document.querySelector(`[data-section="${id}"]`)?.scrollIntoView({ block: 'nearest', inline: 'center' })
  },
  { flush: 'post' },
)

watch(
  () => tree.wanted,
  async (id) => {
    if (!id) return
    section.value = vocabulary.characters.get(id)?.section ?? section.value
    await nextTick()
    const card = document.getElementById(`card-${id}`)
    card?.scrollIntoView({ block: 'start' })
    card?.querySelector<HTMLElement>('button, input')?.focus({ preventScroll: true })
    tree.wanted = ''
  },
  { flush: 'post', immediate: true },
)
</script>

<template>
  <main>
    <slot />
    <p v-if="!session.may('observer')" class="soft hint" tabindex="-1" data-work>
      You read only: how the tree stands and what was seen of it are beside this; observers score it.
    </p>
    <template v-else-if="tree.look">
      <Tabs v-model:value="section" scrollable class="parts">
        <header>
          <h2 tabindex="-1" data-work>
            {{ tree.look.from_words }} <span class="soft small">{{ from?.hint }}</span>
          </h2>
          <div class="sections">
            <TabList aria-label="What to score">
              <Tab v-for="s in offered" :key="s" :value="s" :data-section="s">
                {{ vocabulary.sections.get(s)?.words
                }}<span v-if="counts[s]" class="count" :aria-label="`${counts[s]} scored`">{{ counts[s] }}</span>
              </Tab>
            </TabList>
            <button v-if="!all" class="press quiet soft" @click="all = true">More…</button>
          </div>
        </header>
        <TabPanels>
          <TabPanel :value="section" class="cards" tabindex="-1">
            <p v-for="c in cautions" :key="c.words" class="caution small">
              <span>{{ c.words }} Local rules come first.</span>
              <button class="press quiet" @click="settings.understood.push(noted(c.words))">Understood</button>
            </p>
            <LookNote :key="tree.openLook" />
            <CharacterCard
              v-for="c in characters"
              :id="`card-${c.id}`"
              :key="tree.openLook + c.id"
              :character="c"
              :score="scored.get(c.id)"
            />
          </TabPanel>
        </TabPanels>
      </Tabs>
    </template>
    <div v-else class="none">
      <p class="soft" tabindex="-1" data-work>
        {{ tree.unlooked ? 'Where do you look first?' : 'Choose a look, or begin a new one.' }} Score what you can see; leave the rest.
        Anything you did not look at counts for nothing.
      </p>
      <LookKinds v-if="tree.unlooked" class="first" />
    </div>
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
  min-width: 0;
}

.sections :deep(.p-tablist) {
  min-width: 0;
}

.sections :deep(.p-tablist-tab-list) {
  border: 0;
  background: none;
}

.sections :deep(.p-tab) {
  min-height: var(--pt-press);
  padding: 0.25rem 0.75rem;
  white-space: nowrap;
}

@media (max-width: 900px) {
  /* A thumb moves them. */
  .sections :deep(.p-tablist-nav-button) {
    display: none;
  }
}

.sections .press {
  flex: none;
}

.parts :deep(.p-tabpanels) {
  padding: 0;
  background: none;
}

.parts :deep(.cards) {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.75rem;
  padding-top: 0.75rem;
}

.count {
  margin-left: 0.375rem;
  padding: 0 0.4rem;
  border-radius: 999px;
  background: var(--pt-spruce);
  color: var(--pt-snow);
  font-size: 0.8125rem;
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

.none {
  display: grid;
  gap: 1rem;
  padding: 1rem;
}

/* At the desk they stand on the left. */
@media (min-width: 901px) {
  .none {
    padding-top: 3rem;
    text-align: center;
  }

  .first {
    display: none;
  }
}

.hint {
  padding: 3rem 1rem;
  text-align: center;
}
</style>
