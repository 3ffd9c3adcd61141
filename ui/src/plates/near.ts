import { dot, edges, egg, line, onTip, spread, tip, twig, wide } from './pen'

/** Bark beyond its texture. */
export const barkMore: Record<string, Record<string, string>> = {
  'bark.give': {
    hard: 'M6 24H42M24 4V20M18 14L24 21L30 14',
    firm: 'M6 26Q20 26 22 29H26Q28 26 42 26M24 4V24M18 18L24 25L30 18',
    gives: 'M6 24Q18 24 19 36Q24 42 29 36Q30 24 42 24M24 4V32M18 26L24 33L30 26',
  },
  'bark.section': {
    'pale-and-dark-bands':
      'M6 8H42V40H6ZM6 16H42M6 24H42M6 32H42' + spread(9, (i) => line(8 + 4 * i, 16, 6 + 4 * i, 24) + line(8 + 4 * i, 32, 6 + 4 * i, 40)),
    'even-layers': 'M6 8H42V40H6ZM6 13H42M6 18H42M6 23H42M6 28H42M6 34H42',
    unlayered: 'M6 8H42V40H6Z' + spread(12, (i) => dot(11 + 9 * (i % 4), 14 + 9 * Math.floor(i / 4), 0.8)),
  },
  'bark.branch-marks': {
    none: edges + dot(24, 24, 4),
    arch: edges + dot(24, 26, 4) + 'M12 34Q12 12 24 12Q36 12 36 34',
    chevron: edges + dot(24, 18, 4) + 'M10 40L24 22L38 40L24 31Z',
    eye: edges + 'M8 24Q24 8 40 24Q24 40 8 24' + dot(24, 24, 5),
  },
}

const fuzz = (n: number, length: number) =>
  spread(
    n,
    (i) =>
      line(5 + (38 * i) / (n - 1), 18, 4 + (38 * i) / (n - 1), 18 - length) +
      line(5 + (38 * i) / (n - 1), 32, 6 + (38 * i) / (n - 1), 32 + length),
  )
const nose = 'M18 40Q10 40 12 30Q22 18 20 6M18 40Q26 42 27 36'
const whiff = (d: string) => nose + d

/** Twigs beyond arrangement, colour and pith. */
export const twigMore: Record<string, Record<string, string>> = {
  'twig.hair': { none: twig, sparse: twig + fuzz(5, 5), downy: twig + fuzz(13, 4), velvety: twig + fuzz(22, 8) },
  'twig.finish': {
    dull: twig + line(8, 25, 12, 25) + line(34, 27, 40, 27),
    shiny: `${twig}M8 22H30M34 22H36M12 25H20`,
    'waxy-bloom': twig + spread(14, (i) => dot(6 + 6 * (i % 7), 22 + 6 * Math.floor(i / 7), 1)),
    'flaking-film': `${twig}M10 18Q14 10 20 14L22 20M28 18Q34 8 40 13L38 20M14 32Q18 40 24 36`,
    'silvery-scales': twig + spread(12, (i) => spokesAt(8 + 6.5 * (i % 6), 22 + 6 * Math.floor(i / 6))),
  },
  'twig.lenticels': {
    faint: twig + line(14, 25, 15, 25) + line(32, 27, 33, 27),
    dots:
      twig +
      [
        [8, 22],
        [16, 27],
        [24, 22],
        [32, 28],
        [40, 23],
      ]
        .map(([x, y]) => dot(x, y, 1.2))
        .join(''),
    'raised-warts':
      'M2 18H8Q10 13 13 18H22Q24 13 27 18H36Q38 13 41 18H46M2 32H14Q16 37 19 32H30Q32 37 35 32H46' +
      dot(12, 25, 2) +
      dot(28, 25, 2) +
      dot(40, 26, 2),
    'long-dashes': twig + line(10, 19, 10, 30) + line(20, 21, 20, 31) + line(30, 19, 30, 29) + line(40, 21, 40, 31),
  },
  'twig.arms': {
    none: `${line(24, 46, 24, 4)}M24 30Q30 26 32 20`,
    'paired-spines': `${line(22, 46, 22, 4)}${line(27, 46, 27, 4)}M22 26L8 20L22 19M27 26L41 20L27 19`,
    'single-thorns': `${line(22, 46, 22, 4)}${line(27, 46, 27, 4)}M27 28L45 14L27 21M22 40Q17 37 18 33`,
    'branched-thorns': `${line(14, 46, 14, 4)}${line(19, 46, 19, 4)}M19 30L45 12L19 22M30 22L34 8L26 20M32 21L44 26L28 25`,
    'thorn-tips': 'M22 46L21 18L24 2L27 18L26 46M22 34L12 26M26 28L36 20M12 26L8 16',
    prickles:
      `${line(21, 46, 21, 4)}${line(27, 46, 27, 4)}M21 12L14 8L21 7M27 18L34 14L27 13M21 28L14 24L21 23M27 36L34 32` +
      `L27 31M21 42L14 40L21 38`,
  },
  'twig.section-outline': {
    round: dot(24, 24, 16),
    angled: wide('M24 6L42 16V34L24 43L6 34V16'),
    ribbed: wide(
      'M24 5Q27 11 33 9Q35 15 42 15Q39 22 44 26Q38 29 40 36Q33 36 31 42Q25 38 19 43Q16 37 9 37Q11 30 4 27Q9 22 6 15' +
        'Q13 15 15 9Q21 11 24 5',
    ),
    'corky-winged': dot(24, 24, 10) + 'M20 15V3H28V15M33 20H45V28H33M28 33V45H20V33M15 28H3V20H15',
  },
  'twig.stipule-marks': {
    none: line(16, 46, 16, 2) + line(32, 46, 32, 2) + dot(24, 22, 6),
    slits: line(16, 46, 16, 2) + line(32, 46, 32, 2) + dot(24, 22, 5) + line(17, 20, 20, 26) + line(31, 20, 28, 26),
    'full-ring': `${line(16, 46, 16, 2)}${line(32, 46, 32, 2)}${dot(24, 26, 5)}M16 16Q24 20 32 16M16 18.5Q24 22.5 32 18.5`,
  },
  'twig.scent': {
    none: nose,
    wintergreen: whiff('M32 12Q44 6 44 18Q36 26 32 12M38 20L34 30') + dot(40, 34, 3),
    'bitter-almond': whiff(wide('M38 10Q48 24 38 34Q28 24 38 10') + 'M38 14V30'),
    'warm-spice': whiff('M32 20Q36 14 32 8M38 22Q42 16 38 10M44 20Q47 15 44 9M30 28H46V32H30Z'),
    'citrus-spice': whiff(dot(38, 22, 9) + 'M38 13V31M29 22H47M32 15L44 29M44 15L32 29'),
    'rank-green': whiff('M32 34Q30 16 44 8Q46 26 32 34M34 30L42 14'),
    'stale-nut': whiff(`${dot(38, 22, 8)}M30 22Q38 16 46 22M38 14V30M32 34L44 40M44 34L32 40`),
    'walnut-husk': whiff(dot(38, 22, 9) + dot(38, 22, 5)),
    resin: whiff(wide('M38 8Q47 24 38 30Q29 24 38 8') + 'M38 33V38'),
    musky: whiff('M30 14Q36 8 40 14T46 14M30 22Q36 16 40 22T46 22M30 30Q36 24 40 30T46 30'),
  },
}

function spokesAt(x: number, y: number): string {
  return line(x - 2, y, x + 2, y) + line(x, y - 2, x, y + 2) + line(x - 1.4, y - 1.4, x + 1.4, y + 1.4)
}

const bristle = (from: [number, number][], dx: number, dy: number) => from.map(([x, y]) => line(x, y, x + (x - 24) * dx, y - dy)).join('')
const along: [number, number][] = [
  [24, 10],
  [20, 16],
  [28, 16],
  [17, 22],
  [31, 22],
  [16, 28],
  [32, 28],
]

/** Buds beyond shape, stance, scales and end. */
export const budMore: Record<string, Record<string, string>> = {
  'bud.coat': {
    bare: onTip(egg) + 'M20 18Q18 24 19 29',
    sticky: onTip(egg) + 'M32 22Q37 28 34 31Q31 31 32 22M16 20Q11 26 14 29Q17 28 16 20',
    fringed: onTip(`${egg}M16 24Q24 19 32 24`) + spread(6, (i) => line(18 + 2.5 * i, 22, 17 + 2.8 * i, 17)),
    downy: onTip(egg) + bristle(along, 0.35, 2),
    silky: onTip(egg) + spread(6, (i) => `M${16 + 3 * i} 32Q${15 + 3.2 * i} 22 ${21 + i} 13`),
    woolly:
      onTip('M24 8Q28 6 29 11Q34 12 32 17Q36 21 33 25Q35 31 30 34H18Q13 31 15 25Q12 21 16 17Q14 12 19 11Q20 6 24 8') +
      'M20 16q3 -3 5 0M24 24q3 -3 5 0M18 26q3 -3 5 0',
    mealy: onTip(egg) + spread(10, (i) => dot(19 + 3.4 * (i % 4), 16 + 5 * Math.floor(i / 4), 0.8)),
    whiskered: onTip(egg) + 'M20 32Q8 24 6 8M28 32Q40 24 42 8M22 14Q14 10 13 2M26 14Q34 10 35 2',
  },
  'bud.extras': {
    none: `${line(20, 46, 20, 2)}${line(14, 46, 14, 2)}M20 34Q30 32 31 20Q22 22 20 34`,
    stacked: `${line(20, 46, 20, 2)}${line(14, 46, 14, 2)}M20 38Q29 36 29 28Q22 30 20 38M20 24Q31 22 33 8Q22 12 20 24`,
    'side-by-side':
      line(4, 40, 44, 40) +
      line(4, 46, 44, 46) +
      'M14 40Q8 30 14 20Q20 30 14 40M24 40Q17 27 24 14Q31 27 24 40M34 40Q28 30 34 20Q40 30 34 40',
    'round-flower-buds': `${line(20, 46, 20, 2)}${line(14, 46, 14, 2)}${dot(30, 18, 7)}M20 26Q24 24 25 22M20 40Q28 38 29 30Q22 32 20 40`,
  },
}

const scarBelow = (top: string) => `${tip.replaceAll('46', '47')}${top}`
/** Leaf scars beyond shape and traces. */
export const scarMore: Record<string, Record<string, string>> = {
  'scar.top': {
    notched: scarBelow('') + 'M8 14H18Q24 26 30 14H40Q38 34 24 34Q10 34 8 14',
    straight: scarBelow('') + 'M8 16H40Q38 34 24 34Q10 34 8 16',
    arched: scarBelow('') + 'M8 20Q24 4 40 20Q38 34 24 34Q10 34 8 20',
  },
}
