<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import { useElementBounding } from '@vueuse/core'
import { computed, onMounted, onUnmounted, ref, watch, watchEffect } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { count } from '../frame/words'
import { useChecks } from './checks'

/** Stands over every page while one checks: how far one is, and the way out. */
const checks = useChecks()
const confirm = useConfirm()
const route = useRoute()
const router = useRouter()
const mine = computed(() => checks.mine)
const left = computed(() => (mine.value ? mine.value.plan.trees! - mine.value.named : 0))
const bar = ref<HTMLElement>()
const { height } = useElementBounding(bar)
watchEffect(() => document.documentElement.style.setProperty('--pt-over', `${height.value}px`)) // the desk fills what is left
onUnmounted(() => document.documentElement.style.removeProperty('--pt-over'))
onMounted(checks.look)
watch(() => route.fullPath, checks.look)

function finish() {
  const check = mine.value
  if (!check) return
  const end = async () => {
    if (await checks.finish(check.id)) void router.push(`/checks/${check.id}`)
  }
  confirm.require({
    header: 'Finish the check?',
    message: left.value
      ? `${count(left.value, 'tree')} of ${check.plan.trees} ${left.value === 1 ? 'has' : 'have'} no name of yours. ` +
        'What you named joins the book, and the rest counts as not named. It cannot be taken up again.'
      : 'What you entered joins the book as a visit of yours, and the names are held side by side.',
    acceptLabel: 'Finish it',
    rejectProps: { label: 'Go on checking', severity: 'secondary', outlined: true },
    defaultFocus: 'reject',
    accept: () => void end(),
  })
}
</script>

<template>
  <aside v-if="mine" ref="bar" class="checking" data-checking aria-label="Check cruise">
    <p>
      <strong>You are checking.</strong> {{ mine.named }} of {{ mine.plan.trees }} named. Until it is finished these trees are all there is,
      without what others made of them.
    </p>
    <button class="press" data-finish-check :disabled="checks.busy" @click="finish">Finish the check</button>
    <p v-if="checks.wrong.length" class="wrong small" role="alert">{{ checks.wrong.join(' ') }}</p>
  </aside>
</template>

<style scoped>
.checking {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 1rem;
  align-items: center;
  justify-content: space-between;
  padding: 0.25rem 1.25rem;
  background: var(--pt-straw);
  color: var(--pt-straw-ink);
}
</style>
