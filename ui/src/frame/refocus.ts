import { onBeforeMount, onUnmounted } from 'vue'

/** Takes the focus back to where it was before a dialog came, when the dialog goes. */
export function useRefocus(): void {
  let before: HTMLElement | null = null
  onBeforeMount(() => (before = document.activeElement as HTMLElement | null))
  onUnmounted(() => {
    const lost = !document.activeElement || document.activeElement === document.body
    if (lost && before?.isConnected) before.focus({ preventScroll: true })
  })
}
