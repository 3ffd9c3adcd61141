import { describe, expect, it } from 'vitest'
import { useHistory } from './history'

describe('history', () => {
  it('goes back and forth over what was done', () => {
    const h = useHistory()
    let n = 0
    const step = (by: number) => {
      n += by
      h.did({ undo: () => (n -= by), redo: () => (n += by) })
    }
    step(1)
    step(10)
    h.undo()
    expect(n).toBe(1)
    h.redo()
    expect(n).toBe(11)
    h.undo()
    h.undo()
    h.undo()
    expect(n).toBe(0)
    expect(h.canUndo.value).toBe(false)
    h.redo()
    step(100)
    expect(h.canRedo.value).toBe(false)
    h.redo()
    expect(n).toBe(101)
    h.forget()
    expect(h.canUndo.value).toBe(false)
  })
  it('does not count a replayed step as a new one', () => {
    const h = useHistory()
    const act = () => h.did({ undo: act, redo: act })
    act()
    h.undo()
    expect(h.canUndo.value).toBe(false)
    expect(h.canRedo.value).toBe(true)
  })
})
