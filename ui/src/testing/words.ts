import { useVocabulary } from '../frame/vocabulary'

const terms = (...pairs: [string, string][]) => pairs.map(([id, words]) => ({ id, words }))

/** Gives the words that the book would give. */
export function giveWords() {
  useVocabulary().words = {
    certainties: terms(['sure', 'surely'], ['fair', 'fairly surely'], ['guess', 'as a guess']),
    visibilities: terms(['clear', 'clear view'], ['partial', 'in part'], ['poor', 'hardly']),
    hows: terms(['caliper', 'by caliper'], ['ruler', 'with a ruler'], ['eye', 'by eye']),
    froms: terms(['tree', 'the tree itself'], ['fallen', 'a fallen twig'], ['litter', 'the ground']),
    snows: terms(['none', 'no snow'], ['deep', 'deep snow']),
    vigours: terms(['good', 'good']),
    units: ['mm', 'in'],
    not_seen: 'looked, not seen',
    names: [
      { name: 'Acer rubrum', rank: 'species', english: 'red maple', words: 'red maple (Acer rubrum)' },
      { name: 'Acer saccharum', rank: 'species', english: 'sugar maple', words: 'sugar maple (Acer saccharum)' },
    ],
    statuses: [{ id: 'open', words: 'not yet', sign: '○' }],
    bars: { named: [{ rank: 'species', words: 'to species', p: 0.9 }], probably: 0.7, least: 0.55, most: 0.85, usual: 0.7 },
    amongs: [{ region: 'eastern-north-america', words: 'eastern North America' }],
    sections: [
      { id: 'bark', words: 'Bark', characters: [{ id: 'bark.texture', name: 'bark texture', from: 'tree' }] },
      { id: 'twig', words: 'Twig', characters: [{ id: 'twig.hair', name: 'twig hair', from: 'tree' }] },
      { id: 'ground', words: 'On the ground', characters: [{ id: 'ground.fruit', name: 'fruit on the ground', from: 'litter' }] },
    ],
  } as never
}
