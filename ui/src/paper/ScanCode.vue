<script setup lang="ts">
import { nextTick, onBeforeUnmount, ref } from 'vue'
import { canScan, firstCode } from './scan'

/** Reads a code with the camera, where the browser can; else it is typed. */
const emit = defineEmits<{ code: [string] }>()
const video = ref<HTMLVideoElement>()
const stream = ref<MediaStream | null>(null)
const wrong = ref('')
const can = canScan()

async function start() {
  wrong.value = ''
  try {
    stream.value = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' } })
    await nextTick()
    if (!video.value) return stop()
    video.value.srcObject = stream.value
    video.value.play().catch(() => undefined) // codes are looked for as soon as there is a picture
    void watchFor()
  } catch {
    stop()
    wrong.value = 'The camera may not be used here. Write the tag instead.'
  }
}

async function watchFor() {
  while (stream.value && video.value) {
    const code = await firstCode(video.value)
    if (code) {
      stop()
      return emit('code', code)
    }
    await new Promise((later) => setTimeout(later, 200))
  }
}

function stop() {
  stream.value?.getTracks().forEach((t) => t.stop())
  stream.value = null
}
onBeforeUnmount(stop)
</script>

<template>
  <button v-if="can && !stream" type="button" class="press" data-scan @click="start">
    <i class="pi pi-camera" aria-hidden="true"></i> Scan its code
  </button>
  <div v-if="stream" class="scan">
    <video ref="video" muted playsinline aria-label="What the camera sees"></video>
    <button type="button" class="press" @click="stop">Stop</button>
  </div>
  <p v-if="!can" class="soft small">
    This browser reads no codes: write the tag, or point the telephone’s own camera at the code, which opens the tree.
  </p>
  <p v-if="wrong" class="wrong small" role="alert">{{ wrong }}</p>
</template>

<style scoped>
.scan {
  display: grid;
  gap: 0.5rem;
  width: min(100%, 24rem);
}

video {
  width: 100%;
  border-radius: 8px;
}
</style>
