<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { useFlora } from './flora'

const flora = useFlora()
const search = useDebounceFn(flora.search, 150)
</script>

<template>
  <section class="panel" aria-label="Find a tree by name">
    <label class="field">
      <span>Find by any name, English, scientific or older; or ask for “opposite trees”</span>
      <input v-model="flora.query" type="search" autocomplete="off" spellcheck="false" @input="search" />
    </label>
    <template v-if="flora.found">
      <p v-if="flora.found.ambiguous" class="several" role="status">{{ flora.found.ambiguous }}</p>
      <div v-if="flora.found.rule" class="several" role="status">
        <p>{{ flora.found.rule.words }} It leaves out {{ flora.found.rule.left_out?.length }} trees that are opposite too:</p>
        <p class="small">
          <template v-for="(n, i) in flora.found.rule.left_out" :key="n.name"
            ><template v-if="i">, </template><RouterLink :to="`/flora/${encodeURIComponent(n.name)}`">{{ n.english }}</RouterLink></template
          >.
        </p>
        <p class="small">
          And one it names is not opposite:
          <RouterLink v-for="n in flora.found.rule.wrong" :key="n.name" :to="`/flora/${encodeURIComponent(n.name)}`">{{
            n.english
          }}</RouterLink>.
        </p>
      </div>
      <p v-if="!flora.found.hits?.length && !flora.found.rule" class="soft">No tree goes by that name here, not even nearly.</p>
      <ul class="hits">
        <li v-for="h in flora.found.hits" :key="h.taxon">
          <RouterLink :to="`/flora/${encodeURIComponent(h.taxon)}`">
            <strong>{{ h.kind === 'english' ? h.name : h.english }}</strong> <span class="sci">{{ h.taxon }}</span>
          </RouterLink>
          <span class="small soft">
            <template v-if="h.kind === 'older'">once {{ h.name }}; </template>{{ h.where || 'not so called in these regions' }}
          </span>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 0.625rem;
}

.several {
  padding: 0.375rem 0.75rem;
  border-left: 5px solid var(--pt-straw-ink);
  border-radius: 6px;
  background: var(--pt-straw);
  color: var(--pt-straw-ink);
}

.several a {
  color: inherit;
}

.hits {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(17rem, 100%), 1fr));
  gap: 0.125rem 1.25rem;
}

.hits li {
  display: grid;
  padding: 0.25rem 0;
}

.hits a {
  color: inherit;
}
</style>
