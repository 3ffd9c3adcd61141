import { expect, test } from 'vitest'
import { mount } from '../testing/mount'
import OwnDevices from './OwnDevices.vue'

const device = {
  id: '1',
  name: 'Tablet',
  whose: 'Tobias Okafor',
  since: '',
  until: '',
  ended: false,
  met: '2026-11-30T16:20:00Z',
  holds: 12,
}

test('a device that held something when home heard of it last is named', () => {
  const { root } = mount(OwnDevices, {
    devices: [device, { ...device, id: '2', name: 'Phone', holds: 0 }, { ...device, id: '3', name: 'Old', ended: true }],
  })
  const words = root.textContent.replace(/\s+/g, ' ')
  expect(root.querySelectorAll('[data-held]')).toHaveLength(1)
  expect(words).toContain('had 12 entries that are not home')
  expect(words).toContain('Tablet last met home')
})
