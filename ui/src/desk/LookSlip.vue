<script setup lang="ts">
import { computed } from 'vue'
import type { LookView } from '../api/client'
import { useSession } from '../frame/session'
import { useTree } from './tree'

const props = defineProps<{ look: LookView; open: boolean; begun?: boolean }>()
defineEmits<{ open: [] }>()
const session = useSession()
const tree = useTree()
const whose = 'Chance that this look was of this tree'
const scores = computed(() => props.look.scores ?? [])
</script>

<template>
  <li :class="{ stranger: look.stranger && scores.length, open }">
    <button v-tooltip.bottom="scores.length ? whose : undefined" class="head" data-look :aria-current="open" @click="$emit('open')">
      <strong>{{ look.from_words }}</strong>
      <span v-if="scores.length" class="small">{{ look.whose }}</span>
    </button>
    <p v-if="look.note" class="small soft note">{{ look.note }}</p>
    <ul>
      <li v-for="s in scores" :key="s.entry" class="small">
        <span class="soft">{{ s.name }}:</span> {{ s.words }}
      </li>
    </ul>
    <p v-if="look.says && scores.length" class="small says">{{ look.says }}</p>
    <button v-if="begun" class="small drop" data-leave-look @click="tree.leaveLook">Nothing in it yet: leave it</button>
    <button v-else-if="open && session.may('observer')" class="small drop" @click="tree.withdraw(look.id)">Withdraw this look</button>
  </li>
</template>

<style scoped>
li.stranger,
li.open,
ol > li {
  border: 1px solid var(--pt-line);
  border-radius: 8px;
  background: var(--pt-snow);
  padding: 0 0.625rem 0.5rem;
}

li.open {
  border-color: var(--pt-spruce);
  box-shadow: inset 4px 0 0 var(--pt-spruce);
}

li.stranger {
  border-color: var(--pt-sumac);
  background: var(--pt-sumac-pale);
}

.head {
  display: grid;
  width: 100%;
  min-height: var(--pt-press);
  align-content: center;
  border: 0;
  background: none;
  padding: 0;
  text-align: left;
  cursor: pointer;
}

.stranger .head .small {
  color: var(--pt-sumac);
  font-weight: 600;
}

.says {
  margin-top: 0.25rem;
  color: var(--pt-spruce);
}

.note {
  font-style: italic;
}

.drop {
  min-height: 44px;
  border: 0;
  background: none;
  padding: 0;
  color: var(--pt-sumac);
  text-decoration: underline;
  cursor: pointer;
}
</style>
