import { onMounted, onUnmounted, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useAsk } from './ask'

/** How far trees are weighed again after something changed that they are weighed with; followed until it ends. */
export function useWeighing() {
  const weighing = ref<Schemas['Weighing'] | null>(null)
  const { ask } = useAsk()
  let next = 0

  async function follow() {
    window.clearTimeout(next)
    const { data } = await ask(api.GET('/api/lists/weighing'))
    weighing.value = data ?? null
    if (data?.going) next = window.setTimeout(() => void follow(), 1000)
  }
  onMounted(follow)
  onUnmounted(() => window.clearTimeout(next))

  return { weighing, follow }
}
