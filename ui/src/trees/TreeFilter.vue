<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import Select from 'primevue/select'
import { computed, onMounted, ref } from 'vue'
import { useVocabulary } from '../frame/vocabulary'
import { useFilterInAddress, type Filtered } from './filter'
import { useStands } from './stands'

/** offer: the statuses that can be chosen; home, aside: whether those can be asked for here. */
const props = defineProps<{ page: Filtered; offer?: string[]; home?: boolean; aside?: boolean }>()
const filter = useFilterInAddress(props.page)
const known = useStands()
const vocabulary = useVocabulary()
onMounted(known.load)
const offered = computed(() => vocabulary.statuses.filter((s) => !props.offer || props.offer.includes(s.id)))

/** On a telephone the rest folds away; what is on stays in sight. */
const narrow = useMediaQuery('(max-width: 700px)')
const unfolded = ref(false)
const folded = computed(() => narrow.value && !unfolded.value)
const on = computed(() =>
  [
    filter.stand || filter.tract,
    ...filter.status.map((id) => vocabulary.status(id)?.words ?? id),
    filter.home ? 'twig in hand' : '',
    filter.aside ? 'set aside' : '',
  ].filter(Boolean),
)

const key = (tract: string, stand: string) => `${tract}\n${stand}`
/** Each tract, and in it all of it or one stand. */
const groups = computed(() =>
  known.tracts.map((t) => ({
    tract: t,
    items: [
      { key: key(t, ''), words: `All of ${t}` },
      ...known.all.filter((s) => s.tract === t).map((s) => ({ key: key(t, s.stand), words: `${s.stand} (${s.trees})` })),
    ],
  })),
)
const where = computed({
  get: () => (filter.tract ? key(filter.tract, filter.stand) : null),
  set: (chosen: string | null) => {
    const [tract, stand] = (chosen ?? '').split('\n')
    filter.choose(tract ?? '', stand ?? '')
  },
})
</script>

<template>
  <form class="filter" role="search" @submit.prevent>
    <label class="field find"
      ><span class="sr-only">Find by tag, remark or name</span>
      <input
        :id="page === 'trees' ? 'find' : `find-${page}`"
        v-model="filter.typed"
        data-find
        type="search"
        placeholder="Tag, remark or name of a tree"
        maxlength="80"
      />
    </label>
    <button v-if="narrow" type="button" class="press" data-fold :aria-expanded="unfolded" @click="unfolded = !unfolded">
      <i class="pi pi-filter" aria-hidden="true"></i> {{ on.length ? on.join(', ') : 'Filter' }}
    </button>
    <template v-if="!folded">
      <Select
        v-model="where"
        input-id="stand"
        class="where"
        :options="groups"
        option-label="words"
        option-value="key"
        option-group-label="tract"
        option-group-children="items"
        filter
        show-clear
        placeholder="Every stand"
        aria-label="Stand"
        filter-placeholder="Part of a stand's name"
        scroll-height="24rem"
      />
      <div class="chips" role="group" aria-label="Status">
        <button
          v-for="s in offered"
          :key="s.id"
          type="button"
          class="press chip"
          :data-status="s.id"
          :aria-pressed="filter.status.includes(s.id)"
          @click="filter.toggle(s.id)"
        >
          <span aria-hidden="true" class="sign" :class="s.id">{{ s.sign }}</span> {{ s.words }}
        </button>
        <button v-if="home" type="button" class="press chip" data-home :aria-pressed="filter.home" @click="filter.home = !filter.home">
          <i class="pi pi-home" aria-hidden="true"></i> Twig in hand
        </button>
        <button v-if="home" type="button" class="press chip" data-buds :aria-pressed="filter.buds" @click="filter.buds = !filter.buds">
          <i class="pi pi-clock" aria-hidden="true"></i> Buds first
        </button>
        <button
          v-if="aside"
          type="button"
          class="press chip"
          data-set-aside
          :aria-pressed="filter.aside"
          @click="filter.aside = !filter.aside"
        >
          <span aria-hidden="true" class="sign">–</span> Set aside
        </button>
      </div>
    </template>
    <button v-if="filter.on" type="button" class="press quiet" data-clear @click="filter.clear()">Show all</button>
  </form>
</template>

<style scoped>
.filter {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

.find {
  flex: 1 1 12rem;
}

.where {
  flex: 1 1 12rem;
  min-width: 0;
  min-height: var(--pt-press);
  align-items: center;
}

.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem;
}

.chip {
  font-size: 0.9375rem;
  padding-inline: 0.625rem;
}
</style>
