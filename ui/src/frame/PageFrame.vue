<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed, defineAsyncComponent, onMounted, ref, watchEffect } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import KeptHere from './KeptHere.vue'
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
const more = ref<{ toggle: (e: Event) => void } | null>(null)

const name = computed(() => (session.session?.needed ? session.name : ''))
const parts = computed(() => [
  { to: '/', label: 'Trees', icon: 'pi pi-list' },
  { to: '/worklist', label: 'Worklist', icon: 'pi pi-check-square' },
  { to: '/map', label: 'Map', icon: 'pi pi-map' },
  { to: '/stands', label: 'Stands', icon: 'pi pi-chart-bar' },
  { to: '/files', label: 'Files', icon: 'pi pi-file' },
  { to: '/paper', label: 'Paper', icon: 'pi pi-print' },
  { to: '/flora', label: 'Flora', icon: 'pi pi-book' },
  { to: '/measure', label: 'Measure', icon: 'pi pi-calculator' },
  { to: '/practice', label: 'Practice', icon: 'pi pi-sync' },
  { to: '/checks', label: 'Checks', icon: 'pi pi-verified' },
  { to: '/characters', label: 'What to look at', icon: 'pi pi-eye' },
  { to: '/lists', label: 'Lists', icon: 'pi pi-bookmark' },
  { to: '/crew', label: name.value ? `Crew: ${name.value}` : 'Crew', icon: 'pi pi-users' },
  { to: '/woods', label: 'Home and away', icon: 'pi pi-home' },
  { to: '/settings', label: 'Settings', icon: 'pi pi-cog' },
])
/** What a thumb reaches on a phone; the others are behind one more press. */
const inBar = computed(() => (narrow.value ? parts.value.slice(0, 4) : parts.value))
const inMenu = computed(() => parts.value.slice(4).map((p) => ({ label: p.label, icon: p.icon, command: () => router.push(p.to) })))
const here = (to: string) => (to === '/' ? route.path === '/' : route.path.startsWith(to))
const elsewhere = computed(() => parts.value.slice(4).some((p) => here(p.to)))
</script>

<template>
  <div class="frame">
    <nav aria-label="Parts of Pale Thicket">
      <RouterLink v-for="p in inBar" :key="p.to" class="press quiet" :to="p.to" :aria-current="here(p.to) ? 'page' : undefined">
        <i v-if="narrow" :class="p.icon" aria-hidden="true"></i>{{ p.label }}
      </RouterLink>
      <template v-if="narrow">
        <button
          class="press quiet"
          data-more
          aria-haspopup="true"
          :aria-current="elsewhere ? 'page' : undefined"
          @click="more?.toggle($event)"
        >
          <i class="pi pi-ellipsis-h" aria-hidden="true"></i>More
        </button>
        <Menu ref="more" :model="inMenu" popup />
      </template>
    </nav>
    <main :class="{ wide }">
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

main,
nav {
  width: min(100%, 68rem);
  margin: 0 auto;
  padding: 0.5rem 1.25rem;
}

main {
  flex: 1;
  padding-bottom: 1.25rem;
  display: grid;
  grid-template-columns: minmax(0, 1fr); /* so that nothing makes the page wider than the screen */
  gap: 1rem;
  align-content: start;
}

main.wide,
nav {
  width: min(100%, 84rem);
}

nav {
  display: flex;
  flex-wrap: wrap;
  gap: 0.125rem;
  justify-content: center; /* above wide pages and narrow ones in one place: what is pressed does not move away */
  padding-bottom: 0;
}

nav .press {
  display: grid;
  place-items: center;
  flex: none;
  padding-inline: 0.5rem;
  border-color: transparent;
  color: inherit;
  text-decoration: none;
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
  nav {
    order: 2;
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(4.25rem, 1fr));
    width: 100%;
    padding: 0.25rem max(0.25rem, env(safe-area-inset-left)) max(0.25rem, env(safe-area-inset-bottom));
    border-top: 1px solid var(--pt-line);
    background: var(--pt-paper);
  }

  nav .press {
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
    nav {
      position: sticky;
      bottom: 0;
      z-index: 1001; /* over the map's own controls */
    }
  }

  header {
    border-top: 0;
    padding-top: 0;
  }

  main {
    padding-inline: 0.75rem;
  }
}
</style>
