import { useLocalStorage, usePreferredDark, useSessionStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, watchEffect } from 'vue'

export const themes = [
  { id: 'auto', label: 'As the device' },
  { id: 'light', label: 'Light' },
  { id: 'dark', label: 'Dark' },
  { id: 'contrast', label: 'High contrast' },
] as const
/** What pages are printed on. */
export const papers = ['A4', 'Letter'] as const
export const textSizes = [100, 125, 150, 200]

/** How a person likes to work here: kept by the browser, not in the book. */
export const useSettings = defineStore('settings', () => {
  const theme = useLocalStorage<string>('palethicket.theme', 'auto')
  const text = useLocalStorage('palethicket.text', 100)
  const route = useLocalStorage('palethicket.route', 'branching-first')
  const paper = useLocalStorage<(typeof papers)[number]>('palethicket.paper', 'A4')
  /** Pixels of this screen in a millimetre; 0 until it was measured against a card. */
  const pixelsPerMm = useLocalStorage('palethicket.gauge', 0)
  /** Show beside the standing how it would be if the stand's other trees were what to expect. */
  const here = useLocalStorage('palethicket.here', false, { writeDefaults: false })
  /** Rank trees beside the usual with what their observers misread in practice; off unless asked for. */
  const ownErrors = useLocalStorage('palethicket.ownErrors', false)
  /** Cautions that were read, by tree; each is shown until then. */
  const understood = useSessionStorage<string[]>('palethicket.understood', [])
  const preferredDark = usePreferredDark()
  const shown = computed(() => (theme.value === 'auto' ? (preferredDark.value ? 'dark' : 'light') : theme.value))

  watchEffect(() => {
    document.documentElement.dataset.theme = shown.value
    document.documentElement.style.fontSize = `${text.value}%`
  })

  return { theme, shown, text, route, paper, pixelsPerMm, here, ownErrors, understood }
})
