import { describe, expect, it } from 'vitest'
import { plateAddress, scoredAddress, stateAddress } from './addresses'

describe('addresses of drawings', () => {
  it('name all that a drawing hangs on', () => {
    const bark = {
      what: 'bark' as const,
      taxon: 'Platanus ×hispanica',
      age: 'old',
      zone: 'upper',
      odd: 3,
      marked: ['bark.color', 'bark.texture'],
    }
    expect(plateAddress(bark, '1-ab', 'dark')).toBe(
      '/api/plates/1-ab/bark/Platanus%20%C3%97hispanica?age=old&zone=upper&odd=3&theme=dark&mark=bark.color&mark=bark.texture',
    )
    expect(plateAddress({ ...bark, what: 'twig', odd: 0, marked: [] }, '1-ab', 'light')).not.toContain('zone')
  })
  it('change with the tree', () => {
    expect(scoredAddress('01T', 'twig', '01E', 'light')).toBe('/api/trees/01T/plates/twig?last=01E&theme=light')
    expect(stateAddress('bud.shape', 'egg', '1-ab', 'paper')).toBe('/api/plates/1-ab/states/bud.shape/egg?theme=paper')
  })
})
