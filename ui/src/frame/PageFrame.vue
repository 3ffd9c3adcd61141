<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed, defineAsyncComponent, onMounted, ref, watchEffect } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import KeptHere from './KeptHere.vue'
import { behind, doors, more, type Door } from './doors'
import { titled, walked } from './place'
import { useSession } from './session'

const Menu = defineAsyncComponent(() => import('primevue/menu'))

const props = defineProps<{ title: string; hint?: string; wide?: boolean; back?: string }>()
const session = useSession()
const route = useRoute()
const router = useRouter()
const narrow = useMediaQuery('(max-width: 700px)')
const heading = ref<HTMLElement>()
watchEffect(() => titled(props.title))
onMounted(() => walked() && heading.value?.focus({ preventScroll: true })) // where the work goes on, not the page's start
const menu = ref<{ toggle: (e: Event) => void } | null>(null)

const inBar = computed(() => (narrow.value ? doors.slice(0, 3) : doors))
const name = computed(() => (session.session?.needed ? session.name : ''))
const groups = computed(() => [...(narrow.value ? [{ label: 'Forest and flora', doors: doors.slice(3) }] : []), ...more])
const inMenu = computed(() =>
  groups.value.map((g) => ({
    label: g.label,
    items: g.doors.map((d) => ({
      label: d.to === '/crew' && name.value ? `People: ${name.value}` : d.label,
      icon: d.icon,
      command: () => router.push(d.to),
    })),
  })),
)
const here = (d: Door) => behind(d, route.path)
const elsewhere = computed(() => groups.value.some((g) => g.doors.some(here)))
const tabs = computed(() => doors.find(here)?.tabs ?? [])
</script>

<template>
  <div class="frame">
    <a class="press skip" href="#page" @click.prevent="heading?.focus()">Skip to the page</a>
    <nav aria-label="Parts of Pale Thicket">
      <RouterLink v-for="d in inBar" :key="d.to" class="press quiet" :to="d.to" :aria-current="here(d) ? 'page' : undefined">
        <i v-if="narrow" :class="d.icon" aria-hidden="true"></i>{{ d.label }}
      </RouterLink>
      <button
        class="press quiet"
        data-more
        aria-haspopup="true"
        :aria-current="elsewhere ? 'page' : undefined"
        @click="menu?.toggle($event)"
      >
        <i :class="narrow ? 'pi pi-ellipsis-h' : 'pi pi-angle-down'" aria-hidden="true"></i>More
      </button>
      <Menu ref="menu" :model="inMenu" popup />
      <RouterLink v-if="name && !narrow" class="press quiet who" to="/crew" data-who>{{ name }}</RouterLink>
      <RouterLink v-if="session.may('observer') && !session.checking" class="press lead name" to="/name" data-name-a-tree
        >Name a tree</RouterLink
      >
    </nav>
    <main id="page" :class="{ wide }">
      <KeptHere />
      <header>
        <div class="heading">
          <RouterLink v-if="back" class="press back" :to="back" aria-label="Back"
            ><i class="pi pi-arrow-left" aria-hidden="true"></i
          ></RouterLink>
          <h1 ref="heading" tabindex="-1">{{ title }}</h1>
          <p v-if="hint" class="soft">{{ hint }}</p>
        </div>
        <div v-if="$slots.actions" class="actions"><slot name="actions" /></div>
      </header>
      <nav v-if="tabs.length" class="tabs" aria-label="Parts of the flora">
        <RouterLink
          v-for="t in tabs"
          :key="t.to"
          class="press quiet"
          :to="t.to"
          :aria-current="behind(t, route.path) ? 'page' : undefined"
          >{{ t.label }}</RouterLink
        >
      </nav>
      <slot />
    </main>
  </div>
</template>

<style scoped>
.frame {
  display: flex;
  flex-direction: column;
  min-height: 100dvh;
  container-type: inline-size;
}

.frame > * {
  width: min(100%, 84rem);
  margin: 0 auto;
  padding: 0.5rem 1.25rem;
}

.frame > .skip {
  position: absolute;
  z-index: 10;
  width: auto;
  margin: 0.5rem;
}

.skip:not(:focus) {
  clip-path: inset(50%);
  pointer-events: none;
}

main {
  flex: 1;
  padding-bottom: 1.25rem;
  display: grid;
  grid-template-columns: minmax(0, 65.5rem); /* so that nothing makes the page wider than the screen */
  gap: 1rem;
  align-content: start;
}

main.wide {
  grid-template-columns: minmax(0, 1fr);
}

nav {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem;
}

.frame > nav {
  padding-bottom: 0;
}

nav .name,
nav .who {
  margin-left: auto;
}

nav .who + .name {
  margin-left: 0;
}

.tabs {
  border-bottom: 1px solid var(--pt-line);
  padding-bottom: 0.25rem;
}

nav .press {
  display: grid;
  grid-auto-flow: column;
  gap: 0.25rem;
  place-items: center;
  flex: none;
  padding-inline: 0.625rem;
  text-decoration: none;
}

nav .quiet {
  border-color: transparent;
  color: inherit;
}

nav [aria-current='page'] {
  border-color: var(--pt-spruce);
  background: var(--pt-spruce-pale);
  font-weight: 600;
}

header {
  display: flex;
  flex-wrap: wrap;
  gap: 1rem;
  justify-content: space-between;
  align-items: center;
  border-top: 1px solid var(--pt-line);
  padding-top: 0.75rem;
}

.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
  min-width: 0;
  max-width: 100%;
}

.actions > :slotted(*) {
  min-width: 0;
  max-width: 100%;
}

.back {
  display: inline-grid;
  width: fit-content;
  margin-bottom: 0.25rem;
}

h1 {
  font-size: 1.625rem;
  line-height: 1.15;
}

@media (max-width: 700px) {
  .frame > nav {
    order: 2;
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(3.75rem, 1fr));
    width: 100%;
    padding: 0.25rem max(0.25rem, env(safe-area-inset-left)) max(0.25rem, env(safe-area-inset-bottom));
    border-top: 1px solid var(--pt-line);
    background: var(--pt-paper);
  }

  .frame > nav .press {
    align-content: center;
    grid-auto-flow: row;
    gap: 0.25rem;
    min-height: 56px;
    padding-inline: 0;
    font-size: 0.875rem;
    line-height: 1.1;
  }

  /* Where the text is so large that the bar takes several rows, it stays at the foot of the page. */
  @container (min-width: 21.5rem) {
    .frame > nav {
      position: sticky;
      bottom: 0;
      z-index: 1001; /* over the map's own controls */
    }
  }

  header {
    border-top: 0;
    padding-top: 0;
  }

  .frame > main {
    padding-inline: 0.75rem;
  }
}
</style>
