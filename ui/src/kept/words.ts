import type { Entry } from '../api/client'
import type { useVocabulary } from '../frame/vocabulary'
import { capital, count } from '../frame/words'

/** What an entry says, in a line. The book says it better once it has it. */
export function entryWords(e: Entry, vocabulary: ReturnType<typeof useVocabulary>): string {
  switch (e.kind) {
    case 'look':
      return `Look: ${vocabulary.say(vocabulary.words?.froms, e.from ?? '')}`
    case 'score': {
      const s = e.score
      const states = vocabulary.characters.get(s?.character ?? '')?.states
      const seen = s?.seen === undefined ? '' : s.seen ? 'seen' : (vocabulary.words?.not_seen ?? '')
      const said = (s?.states ?? []).map((id) => vocabulary.say(states, id).toLowerCase()).join(' or ')
      const counted = s?.nodes ? `${count(s.pairs ?? 0, 'pair')} in ${count(s.nodes, 'node')}` : ''
      return `${capital(vocabulary.characterName(s?.character ?? ''))}: ${s?.typed || said || seen || counted || s?.value || ''}`
    }
    case 'note':
      return `Note: ${e.note}`
    case 'name':
      return `Name: ${e.name?.name || 'undetermined'}`
    case 'facts':
      return `About the tree: ${Object.keys(e.facts ?? {}).join(', ')}`
    case 'withdraw':
      return 'Something taken back'
    case 'undo':
      return 'Something undone'
    case 'marks':
      return 'Marks on a photograph'
  }
}
