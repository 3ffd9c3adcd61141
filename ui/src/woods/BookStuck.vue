<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import { clearDevice, saveBook, stuck, tryAgain } from './device'

/** What to do while the book on this device does not answer. */
const confirm = useConfirm()

function clear() {
  confirm.require({
    header: 'Clear this device?',
    message: 'What was entered here and is not home would be lost. Save the book first: it can be taken in at home.',
    acceptLabel: 'Clear it',
    rejectProps: { label: 'Keep it', severity: 'secondary', outlined: true },
    defaultFocus: 'reject',
    accept: async () => {
      await clearDevice()
      location.assign('/')
    },
  })
}
</script>

<template>
  <section class="panel" role="alert" data-stuck>
    <p class="wrong">{{ stuck }}</p>
    <p class="row">
      <button class="press lead" @click="tryAgain">Try again</button>
      <button class="press" data-save-book @click="saveBook">Save the book to a file</button>
      <button class="press" @click="clear">Clear this device…</button>
    </p>
    <p class="small soft">
      Nothing on this device is lost. At home, <code>palethicket take-in</code> takes in what the saved book holds and home does not.
    </p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 0.5rem;
  margin: 0.5rem;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}
</style>
