/** What the colour states look like, in daylight. Used as swatches beside their names, never instead of them. */
const colors: Record<string, string> = {
  white: '#f7f5f0',
  cream: '#efe2bf',
  'pale-grey': '#c9c8c3',
  'mid-grey': '#92918d',
  'dark-grey': '#5b5b5a',
  'grey-brown': '#857a6c',
  brown: '#6f4e37',
  'red-brown': '#84412b',
  'purple-brown': '#5d3d45',
  golden: '#c99b3b',
  olive: '#7c7a4b',
  salmon: '#d99a7c',
  orange: '#cc7429',
  'near-black': '#2a2522',
  'silver-white': '#e3e6e8',
  yellow: '#dcb732',
  pink: '#d49a94',
  purple: '#653a5c',
  green: '#5c7f42',
  red: '#a8312c',
  'dark-brown': '#452f22',
  'yellow-brown': '#a9834a',
  'bright-green': '#5f9a3a',
  grey: '#8f8e8a',
  tan: '#b89b76',
  'sulphur-yellow': '#d6bd24',
}

const colored = ['bark.color', 'bark.under-color', 'twig.color', 'twig.pith-color', 'bud.color']

/** The colours of a state, one or two, or none where the character is no colour. */
export function swatch(character: string, state: string): string[] {
  return colored.includes(character) ? swatches(state) : []
}

/** One colour of a state, for filling a drawing with. */
export const fill = (state: string | undefined): string | undefined => (state ? swatches(state)[0] : undefined)

function swatches(state: string): string[] {
  return state === 'two-tone' ? [colors['red-brown'], colors.green] : colors[state] ? [colors[state]] : []
}
