import { form, setting } from './afar'
import { fruits, ground, needle } from './fruit'
import { branch, dot, egg, line, onTip, ridges, spread, stem, tip, trunk, wide } from './pen'
import { signs } from './signs'
import { barkMore, budMore, scarMore, twigMore } from './near'

/** Pen drawings of states, in one hand. Each is a path for an SVG that is stroked and not filled. */

export const scarOutlines: Record<string, string> = {
  crescent: wide('M8 20Q24 44 40 20Q24 34 8 20'),
  'narrow-v': wide('M7 14L24 40L41 14L24 33'),
  'half-round': wide('M9 18H39Q37 38 24 38Q11 38 9 18'),
  shield: wide('M10 14H38Q38 30 24 42Q10 30 10 14'),
  heart: wide('M24 19Q16 8 9 16Q8 28 24 42Q40 28 39 16Q32 8 24 19'),
  'three-lobed': wide('M24 20C20 6 8 10 12 22C8 34 18 42 24 41C30 42 40 34 36 22C40 10 28 6 24 20'),
  round: dot(24, 25, 15),
  horseshoe: wide('M10 10Q4 42 24 42Q44 42 38 10L32 12Q36 35 24 35Q12 35 16 12'),
  'notch-round-bud': dot(24, 25, 17) + dot(24, 25, 10),
}
const arc = (n: number) => spread(n, (i) => dot(14 + (20 * i) / (n - 1), 20 + 8 * Math.sin((Math.PI * i) / (n - 1))))
const ring = (n: number, r: number) =>
  spread(n, (i) => dot(24 + r * Math.cos((2 * Math.PI * i) / n), 25 + r * Math.sin((2 * Math.PI * i) / n), 1.3))

/** The bundle traces in a scar, each a dot, but for the arc that is one line. */
export const traces: Record<string, string> = {
  one: dot(24, 25),
  two: dot(19, 24) + dot(29, 24),
  three: dot(16, 21) + dot(24, 29) + dot(32, 21),
  five: arc(5),
  'seven-or-so': arc(7),
  'three-groups': [
    [16, 20],
    [24, 31],
    [32, 20],
  ]
    .map(([x, y]) => dot(x - 2, y) + dot(x + 2, y) + dot(x, y + 3))
    .join(''),
  'arc-of-many': 'M13 20Q24 36 35 20',
  'ring-of-many': ring(12, 9),
  scattered: [
    [15, 19],
    [22, 21],
    [30, 18],
    [34, 22],
    [19, 27],
    [27, 26],
    [24, 34],
    [31, 29],
  ]
    .map(([x, y]) => dot(x, y))
    .join(''),
}

const strokes: Record<string, Record<string, string>> = {
  'twig.arrangement': {
    alternate: stem + branch(38, -1) + branch(30, 1) + branch(22, -1) + branch(14, 1),
    subopposite: stem + branch(36, -1) + branch(32, 1) + branch(20, -1) + branch(16, 1),
    opposite: stem + branch(36, -1) + branch(36, 1) + branch(20, -1) + branch(20, 1),
    whorled: stem + [36, 20].map((y) => branch(y, -1) + branch(y, 1) + line(24, y, 30, y + 5) + line(24, y, 18, y + 5)).join(''),
  },
  'bud.shape': {
    round: onTip(dot(24, 25, 10)),
    egg: onTip(egg),
    cone: onTip('M24 5L32 34H16Z'),
    spindle: onTip('M24 2Q30 18 27 34H21Q18 18 24 2'),
    'flat-paddle': onTip('M24 34Q14 26 15 14Q17 7 24 7Q31 7 33 14Q34 26 24 34M24 12V30'),
    dome: onTip('M14 34Q15 22 24 22Q33 22 34 34Z'),
    'stalked-club': onTip('M22 34V27M26 34V27M24 27Q14 22 18 12Q24 3 30 12Q34 22 24 27'),
    sunken: line(18, 46, 18, 6) + line(30, 46, 30, 6) + 'M18 24Q25 20 25 26T18 32',
  },
  'bud.stance': {
    pressed: stem + 'M25 34Q30 28 28 18Q25 22 25 34',
    spreading: stem + 'M25 34Q30 32 40 20Q30 22 25 34',
    'tipped-aside': stem + 'M25 34Q36 30 34 16Q24 24 25 34M17 37H31',
    'above-a-gap': stem + 'M25 26Q32 22 32 12Q25 16 25 26M25 38H32',
    hidden: stem + 'M25 36Q33 34 32 28Q29 25 25 28',
  },
  'bud.tip': {
    'true-end-bud': onTip(egg),
    'side-bud-at-end': tip + 'M28 34Q36 26 30 14Q22 22 24 34M20 34L15 28',
    'pair-at-end': tip + 'M20 34Q10 26 15 14Q22 22 22 34M28 34Q38 26 33 14Q26 22 26 34',
    'cluster-at-end': tip + 'M24 6Q31 18 27 34H21Q17 18 24 6M20 34Q8 28 11 17Q19 22 20 34M28 34Q40 28 37 17Q29 22 28 34',
  },
  'bud.scales': {
    naked: onTip('M24 8Q16 20 20 34M24 8Q32 20 28 34M24 8V34M18 18L22 24M30 18L26 24'),
    'one-cap': onTip(egg),
    'two-edge-to-edge': onTip(`${egg}M24 10V34`),
    'few-overlapping': onTip(`${egg}M16 26Q24 20 24 10M32 28Q25 30 21 34`),
    'many-overlapping': onTip(`${egg}M17 18Q24 14 31 18M15 24Q20 19 24 16Q28 19 33 24M16 30Q20 25 24 22Q28 25 32 30M21 34L24 28L27 34`),
  },
  'twig.pith': {
    solid: line(14, 6, 14, 42) + line(34, 6, 34, 42) + line(20, 6, 20, 42) + line(28, 6, 28, 42),
    chambered:
      line(14, 6, 14, 42) +
      line(34, 6, 34, 42) +
      line(19, 6, 19, 42) +
      line(29, 6, 29, 42) +
      spread(7, (i) => line(19, 9 + 5 * i, 29, 9 + 5 * i)),
    barred:
      line(14, 6, 14, 42) +
      line(34, 6, 34, 42) +
      spread(4, (i) => line(20, 11 + 9 * i, 28, 11 + 9 * i) + line(20, 13 + 9 * i, 28, 13 + 9 * i)),
    'barred-at-nodes': line(14, 6, 14, 42) + line(34, 6, 34, 42) + line(19, 6, 19, 42) + line(29, 6, 29, 42) + 'M19 22H29M19 26H29',
    'spongy-wide':
      line(14, 6, 14, 42) +
      line(34, 6, 34, 42) +
      line(16, 6, 16, 42) +
      line(32, 6, 32, 42) +
      spread(6, (i) => dot(20 + 4 * (i % 3), 12 + 4 * i)),
    hollow: line(14, 6, 14, 42) + line(34, 6, 34, 42) + 'M14 6a10 3 0 0 0 20 0a10 3 0 0 0 -20 0M18 6a6 1.6 0 0 0 12 0',
  },
  'scar.shape': scarOutlines,
  'scar.bundles': Object.fromEntries(
    Object.entries(traces).map(([id, d]) => [id, (id === 'ring-of-many' ? scarOutlines.round : scarOutlines.shield) + d]),
  ),
  'form.crown': {
    columnar: `${trunk}M19 34Q14 20 20 6Q24 2 28 6Q34 20 30 34Z`,
    conical: `${trunk}M24 3L38 34H10Z`,
    rounded: trunk + dot(24, 20, 15),
    spreading: `${trunk}M3 28Q4 14 24 13Q44 14 45 28Q24 37 3 28`,
    'flat-topped': `${trunk}M5 13H43Q40 32 24 34Q8 32 5 13`,
    vase: `${trunk}M24 36Q20 20 5 13Q14 3 24 5Q34 3 43 13Q28 20 24 36`,
    weeping: `${trunk}M24 8Q8 8 7 38M24 8Q14 12 14 38M24 8Q40 8 41 38M24 8Q34 12 34 38`,
    ragged: `${trunk}M12 32L8 24L14 20L11 12L20 14L24 4L29 12L37 9L35 19L42 25L33 28L36 34L24 32Z`,
  },
  'bark.texture': {
    smooth: line(6, 4, 6, 44) + line(42, 4, 42, 44),
    'dash-banded': line(6, 4, 6, 44) + line(42, 4, 42, 44) + 'M12 11H20M27 15H37M10 22H17M24 26H32M14 33H26M31 37H38',
    'papery-curls': 'M6 4V44M42 4V44M6 14H30Q36 14 36 19Q32 21 31 17M12 28H42M12 28Q7 28 7 33Q11 35 12 31M20 39H38',
    'shredding-strips': ridges(8, 14, 20, 26, 32, 38) + 'M14 44L11 47M26 4L29 1',
    'long-loose-plates': 'M8 6L12 42L6 46M18 4L16 30L22 36M28 8L26 44L31 46M40 4L37 32L43 38M16 4V28M34 8V40',
    'one-edge-plates': 'M8 4V22L17 19V4M20 10V30L31 27V10M34 4V18L42 16V4M8 27V44L17 41V27M34 24V44L42 41V24',
    'small-scales': spread(
      12,
      (i) => `M${7 + 12 * (i % 3) + (Math.floor(i / 3) % 2) * 4} ${8 + 11 * Math.floor(i / 3)}q5 -4 9 0q-1 6 -5 6q-4 0 -4 -6`,
    ),
    'square-blocks': 'M6 5H42V43H6ZM18 5V43M30 5V43M6 17H42M6 30H42',
    'mottled-patches':
      'M6 4V44M42 4V44M10 10Q20 5 24 13Q20 22 12 19Q8 15 10 10M27 20Q38 16 38 26Q32 33 26 28ZM11 30Q20 26 22 36Q16 43 10 39Z',
    'mesh-ridges': 'M10 4L20 16L10 28L20 44M30 4L20 16L30 28L20 44M38 4L30 16L38 28L30 44M30 4L38 16L30 28L38 44',
    'long-ridges': ridges(9, 18, 27, 36) + 'M9 40Q14 36 18 30',
    'flat-ridges': spread(3, (i) => `M${7 + 12 * i} 4V44H${15 + 12 * i}V4Z`),
    'rough-furrows': 'M8 4L12 14L7 24L13 34L8 46M18 4L15 12L21 22L16 32L21 46M28 4L33 14L27 24L32 36L28 46M39 4L36 14L41 24L36 34L40 46',
    'warty-ridges':
      'M6 4V44M42 4V44' + spread(3, (i) => `M${11 + 10 * i} ${12 + 9 * i}h7l-1 3h-5l-1 3h7l-1 3h-5`) + 'M31 10h6l-1 3h-4M11 36h6l-1 3h-4',
    sinewy: 'M9 4Q3 24 9 44M19 4Q27 24 19 44M29 4Q22 24 29 44M39 4Q45 24 39 44',
  },
}

Object.assign(strokes, setting, form, barkMore, twigMore, budMore, scarMore, fruits, ground, needle, signs)

/** The drawing of a state, or nothing where none is drawn yet. */
export function stroke(character: string, state: string): string | undefined {
  return strokes[character]?.[state]
}

/** The characters that are drawn, for checking that all their states are. */
export const drawn = strokes
