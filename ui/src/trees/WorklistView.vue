<script setup lang="ts">
import SaveFile from '../frame/SaveFile.vue'
import { computed, onMounted, ref } from 'vue'
import { api } from '../api/client'
import { useAsk } from '../frame/ask'
import PageFrame from '../frame/PageFrame.vue'
import PrintButton from '../frame/PrintButton.vue'
import SaidWrong from '../frame/SaidWrong.vue'
import { useVocabulary } from '../frame/vocabulary'
import OpenTree from './OpenTree.vue'
import TreeFilter from './TreeFilter.vue'
import { useFilter } from './filter'
import { useWorklist } from './worklist'

const filter = useFilter('worklist')
const list = useWorklist()
const vocabulary = useVocabulary()
const open = computed(() => vocabulary.statuses.filter((s) => !s.settled).map((s) => s.id))
onMounted(list.again)
const season = ref('')
const { ask } = useAsk()
onMounted(async () => (season.value = (await ask(api.GET('/api/outside'))).data?.season.says ?? ''))
</script>

<template>
  <PageFrame title="Worklist" hint="Trees not yet settled, those first for which one look is worth most">
    <template #actions>
      <PrintButton v-if="list.list.length" :whole="list.all" />
      <RouterLink v-if="list.list.length" class="press" to="/day" data-plan>Plan a day of these</RouterLink>
      <SaveFile class="file" :href="`/api/worklist/calendar.ics?${filter.search}`" name="come-back.ics">
        <i class="pi pi-calendar" aria-hidden="true"></i> When to come back (ICS)
      </SaveFile>
    </template>
    <TreeFilter page="worklist" :offer="open" home />
    <SaidWrong :lines="list.wrong" again @again="list.load" />
    <p v-if="list.loaded && !list.list.length && !list.wrong.length" class="soft">
      <template v-if="filter.on">No open tree fits what is asked for above.</template>
      <template v-else>Nothing is open: every tree has a name that nothing speaks against.</template>
    </p>
    <ul v-if="list.list.length" class="rows" aria-label="Open trees">
      <OpenTree v-for="t in list.list" :key="t.id" :tree="t" />
    </ul>
    <p v-if="list.list.length" class="soft more" role="status">
      {{ list.list.length }} of {{ list.total }} open
      <button v-if="list.list.length < list.total" class="press" @click="list.more">Show more</button>
    </p>
    <p class="soft small">Take a twig home only where collecting is allowed, and cut none from a protected tree. {{ season }}</p>
  </PageFrame>
</template>
