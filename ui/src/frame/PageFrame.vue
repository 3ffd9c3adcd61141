<script setup lang="ts">
import { useRoute } from 'vue-router'

defineProps<{ title: string; hint?: string; wide?: boolean }>()
const route = useRoute()
const places = [
  { to: '/', label: 'Trees' },
  { to: '/worklist', label: 'Worklist' },
  { to: '/map', label: 'Map' },
  { to: '/stands', label: 'Stands' },
  { to: '/files', label: 'Files' },
  { to: '/flora', label: 'Flora' },
  { to: '/characters', label: 'What to look at' },
  { to: '/lists', label: 'Lists' },
  { to: '/crew', label: 'Crew' },
]
const here = (to: string) => (to === '/' ? route.path === '/' : route.path.startsWith(to))
</script>

<template>
  <main :class="{ wide }">
    <nav aria-label="Parts of Pale Thicket">
      <RouterLink v-for="p in places" :key="p.to" class="press quiet" :to="p.to" :aria-current="here(p.to) ? 'page' : undefined">{{ p.label }}</RouterLink>
    </nav>
    <header>
      <div>
        <h1>{{ title }}</h1>
        <p v-if="hint" class="soft">{{ hint }}</p>
      </div>
      <slot name="actions" />
    </header>
    <slot />
  </main>
</template>

<style scoped>
main {
  max-width: 68rem;
  margin: 0 auto;
  padding: 0.5rem 1.25rem 1.25rem;
  display: grid;
  grid-template-columns: minmax(0, 1fr); /* so that nothing makes the page wider than the screen */
  gap: 1rem;
  align-content: start;
}

main.wide {
  max-width: 84rem;
}

nav {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem;
  border-bottom: 1px solid var(--pt-line);
  padding-bottom: 0.25rem;
}

@media (max-width: 700px) {
  nav {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(4.05rem, 1fr));
  }

  nav .press {
    padding-inline: 0;
    font-size: 0.875rem;
    line-height: 1.1;
  }
}

nav .press {
  display: grid;
  place-items: center;
  flex: none;
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
}

h1 {
  font-size: 1.625rem;
  line-height: 1.15;
}
</style>
