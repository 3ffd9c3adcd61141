import { onBeforeUnmount, ref } from 'vue'
import { problemLines } from '../api/client'
import { askDevice, isAway } from '../woods/device'
import { noConnection } from './ask'
import { saveAs } from './save'

/** Has a file made and saves it: on a device by the book there, as a browser asks home for what it saves. It can be stopped. */
export function useSaving() {
  const making = ref<AbortController | null>(null)
  const wrong = ref('')

  async function make(href: string | URL, name: string) {
    const stop = new AbortController()
    making.value = stop
    wrong.value = ''
    try {
      const url = new URL(href, location.origin)
      const answer = await (isAway() ? askDevice(new Request(url)) : fetch(url, { signal: stop.signal }))
      if (stop.signal.aborted) return
      if (!answer.ok) throw new Error(problemLines(await answer.json()).join(' '))
      saveAs(await answer.blob(), name)
    } catch (e) {
      if (!stop.signal.aborted) wrong.value = e instanceof TypeError ? noConnection : (e as Error).message
    }
    making.value = null
  }

  onBeforeUnmount(() => making.value?.abort())
  return { making, wrong, make }
}
