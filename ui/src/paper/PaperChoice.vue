<script setup lang="ts">
import { papers, useSettings } from '../frame/settings'

/** What everything is printed on, on this device. */
const settings = useSettings()
</script>

<template>
  <label class="field"
    >Paper
    <select v-model="settings.paper" data-paper>
      <option v-for="p in papers" :key="p">{{ p }}</option>
    </select></label
  >
</template>
