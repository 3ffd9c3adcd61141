import { nextTick } from 'vue'
import { expect, test } from 'vitest'
import { useSession } from '../frame/session'
import { mount } from '../testing/mount'
import StrandedScores from './StrandedScores.vue'
import { useTree } from './tree'

test('whose score was in an observation that somebody else took back is told, and nobody else', async () => {
  const { root } = mount(StrandedScores, {})
  useTree().view = {
    tree: { id: 't' },
    stranded: [{ entry: 'e', by: 'Tobias Okafor', words: 'bark texture: smooth', took: 'Ada Lund' }],
  } as never
  useSession().session = { needed: true, name: 'Tobias Okafor', role: 'observer', checking: '' }
  await nextTick()
  expect(root.textContent.replace(/\s+/g, ' ')).toContain('Ada Lund took back the observation that this was in')
  useSession().session = { needed: true, name: 'Ada Lund', role: 'observer', checking: '' }
  await nextTick()
  expect(root.querySelector('[data-stranded]')).toBeNull()
})
