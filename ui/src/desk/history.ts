import { computed, ref } from 'vue'

/** A step that was taken: how to take it back, and how to take it again. */
export interface Step {
  undo: () => void
  redo: () => void
}

/**
 * Steps back and forth. Each is an entry of its own in the log: taking a score
 * back does not unmake it, it withdraws it.
 */
export function useHistory() {
  const done = ref<Step[]>([])
  const undone = ref<Step[]>([])
  let replaying = false

  function did(step: Step) {
    if (replaying) return
    done.value.push(step)
    undone.value = []
  }

  function replay(from: Step[], to: Step[], way: 'undo' | 'redo') {
    const step = from.pop()
    if (!step) return
    replaying = true
    step[way]()
    replaying = false
    to.push(step)
  }

  return {
    did,
    undo: () => replay(done.value, undone.value, 'undo'),
    redo: () => replay(undone.value, done.value, 'redo'),
    canUndo: computed(() => done.value.length > 0),
    canRedo: computed(() => undone.value.length > 0),
    forget: () => {
      done.value = []
      undone.value = []
    },
  }
}
