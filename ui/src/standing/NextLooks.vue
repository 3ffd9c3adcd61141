<script setup lang="ts">
import { computed } from 'vue'
import type { Next } from '../api/client'
import { useTree } from '../desk/tree'
import { capital, percent, seconds } from '../frame/words'

const props = defineProps<{ next: Next[] }>()
const emit = defineEmits<{ open: [] }>()
const tree = useTree()
const looks = computed(() =>
  props.next.map((n) => ({
    ...n,
    cost: [seconds(n.seconds), n.harm_words, n.vain].filter(Boolean).join(', '),
    apart: (n.separates ?? []).join(' from '),
  })),
)

function go(n: Next) {
  tree.goTo(n.character, n.from)
  emit('open')
}
</script>

<template>
  <section aria-label="Look at next">
    <h3>Look at next</h3>
    <p v-if="looks.length === 0" class="small soft">Nothing within reach would tell much more.</p>
    <ol>
      <li v-for="n in looks" :key="n.character">
        <button class="press" :data-next="n.character" @click="go(n)">
          <span class="what"
            ><strong>{{ capital(n.name) }}</strong> <span class="small soft">{{ n.from_words }} · {{ n.cost }}</span></span
          >
          <span v-if="n.apart" class="small">tells {{ n.apart }}</span>
        </button>
        <ul class="small">
          <li v-for="a in (n.answers ?? []).slice(0, 3)" :key="a.words">
            <span>{{ a.words }}</span><span class="soft">{{ a.leader }} {{ percent(a.posterior) }}</span>
          </li>
        </ul>
      </li>
    </ol>
  </section>
</template>

<style scoped>
h3 {
  font-size: 1rem;
  margin-bottom: 0.375rem;
}

ol {
  display: grid;
  gap: 0.5rem;
}

.press {
  display: grid;
  width: 100%;
  text-align: left;
}

ul li {
  display: flex;
  justify-content: space-between;
  gap: 0.75rem;
  padding: 0.125rem 0.75rem;
}
</style>
