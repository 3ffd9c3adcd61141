<script setup lang="ts">
import Select from 'primevue/select'
import { computed, onMounted } from 'vue'
import { useVocabulary } from '../frame/vocabulary'
import { useFilter } from './filter'

const props = defineProps<{ offer?: string[] }>()
const filter = useFilter()
const vocabulary = useVocabulary()
onMounted(filter.load)
const offered = computed(() => vocabulary.statuses.filter((s) => !props.offer || props.offer.includes(s.id)))

const key = (tract: string, stand: string) => `${tract}\n${stand}`
/** Each tract, and in it all of it or one stand. */
const groups = computed(() =>
  filter.tracts.map((t) => ({
    tract: t,
    items: [
      { key: key(t, ''), words: `All of ${t}` },
      ...filter.all.filter((s) => s.tract === t).map((s) => ({ key: key(t, s.stand), words: `${s.stand} (${s.trees})` })),
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
      <input id="find" v-model="filter.typed" type="search" placeholder="Tag, remark or name of a tree" maxlength="80" />
    </label>
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
    </div>
  </form>
</template>

<style scoped>
.filter {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}

.find {
  flex: 1 1 14rem;
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
