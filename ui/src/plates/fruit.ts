import { dot, line, spread, stem, wide } from './pen'

const key = (x: number, y: number, turn: number) => {
  const [c, s] = [Math.cos(turn), Math.sin(turn)]
  const at = (u: number, v: number) => `${(x + u * c - v * s).toFixed(1)} ${(y + u * s + v * c).toFixed(1)}`
  return `M${at(0, 0)}Q${at(6, 5)} ${at(4, 20)}Q${at(0, 25)} ${at(-4, 20)}Q${at(-6, 5)} ${at(0, 0)}`
}
const cluster = (...p: number[]) => spread(p.length / 3, (i) => dot(p[3 * i], p[3 * i + 1], p[3 * i + 2]))
const cone = wide('M24 6Q38 14 36 30Q34 42 24 44Q14 42 12 30Q10 14 24 6')
const shell = (n: number) => spread(n, (i) => `M${13 + i} ${16 + 7 * i}Q24 ${26 + 7 * i} ${35 - i} ${16 + 7 * i}`)

const kinds: Record<string, string> = {
  'single-keys': `M24 4V12${key(24, 12, 0.5)}${key(24, 12, -0.5)}`,
  'paired-keys': `M24 4V16${dot(20, 18, 4)}${dot(28, 18, 4)}M17 20Q4 28 6 42Q16 38 21 22M31 20Q44 28 42 42Q32 38 27 22`,
  'cone-of-keys': 'M24 46V34' + spread(7, (i) => `M24 36Q${6 + 6 * i} 24 ${10 + 4.6 * i} 6Q${16 + 3 * i} 18 24 36`),
  'round-keys': `${dot(24, 26, 16)}${dot(24, 26, 5)}M24 10V4M24 21V14`,
  'woody-conelets':
    `M10 4Q24 10 34 6M20 9V18M32 7V24${wide('M20 18Q28 22 26 32Q20 38 14 32Q12 22 20 18')}` +
    `M14 24H26M14 29H26${wide('M34 24Q40 28 39 36Q34 40 30 36Q28 28 34 24')}M30 31H39`,
  'scaly-cone': cone + shell(4) + 'M24 6V2',
  'small-capsules': `${stem}M24 14L32 8L34 14L26 18M24 24L14 18L13 25L22 28M24 34L33 28L35 34L26 38`,
  'beaked-balls':
    dot(24, 28, 12) +
    'M24 16V3' +
    spread(12, (i) => {
      const a = (Math.PI * i) / 6
      return line(24 + 12 * Math.cos(a), 28 + 12 * Math.sin(a), 24 + 17 * Math.cos(a + 0.2), 28 + 17 * Math.sin(a + 0.2))
    }),
  'fluffy-balls':
    dot(24, 30, 13) +
    'M24 17V3' +
    spread(16, (i) => dot(24 + 9 * Math.cos(i), 30 + 9 * Math.sin(i), 0.8)) +
    spread(6, (i) => dot(24 + 4 * Math.cos(i), 30 + 4 * Math.sin(i), 0.8)),
  'flat-pod': 'M24 3V8Q38 20 30 42Q28 46 25 44Q14 26 24 8M25 16h5M25 24h6M25 32h5',
  'long-bean': 'M14 3Q20 24 16 46M18 3Q24 24 20 46M30 3Q36 22 33 40M34 3Q40 22 37 40',
  'husked-nut': dot(24, 26, 16) + dot(24, 26, 9) + 'M24 10V17M24 35V42M8 26H15M33 26H40',
  acorn: 'M10 20Q10 8 24 8Q38 8 38 20ZM12 20Q12 36 24 44Q36 36 36 20M24 8V3M14 14L34 14',
  'spiny-bur':
    dot(24, 24, 11) +
    spread(24, (i) => {
      const a = (Math.PI * i) / 12
      return line(24 + 11 * Math.cos(a), 24 + 11 * Math.sin(a), 24 + 19 * Math.cos(a), 24 + 19 * Math.sin(a))
    }),
  'fuzzy-red-cluster':
    'M24 46V40' +
    cluster(
      24,
      8,
      3,
      20,
      14,
      3,
      28,
      14,
      3,
      16,
      21,
      3.4,
      24,
      21,
      3.4,
      32,
      21,
      3.4,
      18,
      29,
      3.4,
      26,
      29,
      3.4,
      31,
      30,
      3,
      22,
      36,
      3,
      28,
      36,
      3,
    ) +
    'M12 20L8 18M36 20L40 18M15 29L10 30M35 30L39 31',
  'berry-cluster':
    'M24 3V14M24 14L10 22M24 14L38 22M24 14V26M24 14L16 32M24 14L32 32' +
    cluster(10, 25, 3.4, 38, 25, 3.4, 24, 30, 3.4, 15, 36, 3.4, 33, 36, 3.4),
  'small-drupes': 'M24 3Q22 12 14 22M24 3Q26 14 32 26' + dot(13, 28, 6) + dot(33, 32, 6),
  'haws-or-pomes': `M24 3V14${dot(24, 26, 12)}M19 38L24 34L29 38M21 40L24 37L27 40`,
  'nutlets-on-a-wing':
    `${wide('M24 3Q34 10 30 26Q24 30 18 26Q14 10 24 3')}M24 6V30` + `M24 30L16 38M24 30L32 38${dot(15, 41, 3.4)}${dot(33, 41, 3.4)}`,
  'bladdery-sacs': 'M24 3V10Q40 12 38 30Q36 40 30 44L24 38L18 44Q12 40 10 30Q8 12 24 10M24 10V38',
  'large-berry': 'M20 4Q26 8 22 12Q8 18 12 36Q18 46 28 43Q42 36 36 22Q32 12 22 12',
  'crumbling-conelets':
    'M16 3V10' +
    wide('M16 10Q26 14 24 30Q16 36 10 30Q8 14 16 10') +
    'M10 18H23M10 24H24M32 12l3 5l-5 1zM36 24l4 4l-6 1zM30 34l4 4l-6 2zM40 36l3 4l-5 1z',
  'leathery-husk': `${dot(24, 26, 16)}M24 10V3M24 10Q14 24 24 42M24 10Q34 24 24 42`,
  'large-green-ball':
    dot(24, 26, 18) + spread(9, (i) => `M${11 + 10 * (i % 3)} ${16 + 9 * Math.floor(i / 3)}q4 -4 7 1q1 5 -4 4`) + 'M24 8V3',
  'plumed-heads':
    dot(24, 34, 5) +
    spread(9, (i) => {
      const a = Math.PI * (1 + i / 8)
      return `M24 32Q${24 + 8 * Math.cos(a)} ${24 + 12 * Math.sin(a)} ${24 + 20 * Math.cos(a + 0.2)} ${30 + 24 * Math.sin(a)}`
    }),
  'berry-like-cones': 'M8 4Q22 10 40 8M18 8V18M32 8V26' + dot(18, 24, 6) + dot(32, 33, 6) + 'M15 24h5M29 33h5',
  'red-cups': `M24 3V14M12 20Q12 14 24 14Q36 14 36 20V32Q34 42 24 42Q14 42 12 32ZM16 20Q24 26 32 20${dot(24, 26, 4)}`,
  'knobbly-cones':
    dot(24, 26, 15) +
    spread(9, (i) => {
      const a = (2 * Math.PI * i) / 9
      return dot(24 + 15 * Math.cos(a), 26 + 15 * Math.sin(a), 2.6)
    }) +
    'M24 11V4M14 22L34 22M14 31L34 31M24 12V40',
  'pink-lobed-capsules': 'M24 3V12Q38 8 40 22Q40 32 30 32Q24 40 18 32Q8 32 8 22Q10 8 24 12M24 12V32' + dot(16, 38, 3) + dot(32, 38, 3),
  'leafy-bracts':
    'M24 2V44M24 10Q36 6 40 12Q34 14 36 20Q28 20 24 14M24 22Q12 18 8 24Q14 26 12 32Q20 32 24 26M24 34Q36 30 40 36Q34 38 34 43Q28 42 24 38',
}

const catkin = (x: number, y: number, h: number) =>
  `M${x - 3} ${y}Q${x - 5} ${y + h / 2} ${x} ${y + h}Q${x + 5} ${y + h / 2} ${x + 3} ${y}Z` +
  spread(3, (i) => line(x - 3, y + (h * (i + 1)) / 5, x + 3, y + (h * (i + 1)) / 5))
const acornNut = 'M14 22Q14 38 24 45Q34 38 34 22'
const husk = dot(24, 24, 18)

/** What hangs, and how nuts and acorns are held. */
export const fruits: Record<string, Record<string, string>> = {
  'fruit.kind': kinds,
  'fruit.catkins': {
    none: 'M4 8Q24 14 44 8M24 11V16',
    singly: `M4 8Q24 14 44 8${catkin(24, 12, 28)}`,
    'twos-and-threes': `M4 8Q24 14 44 8${catkin(16, 11, 26)}${catkin(25, 12, 30)}${catkin(34, 11, 26)}`,
    'fours-and-more':
      `M4 8Q24 14 44 8${catkin(9, 10, 24)}${catkin(18, 11, 28)}` + `${catkin(27, 12, 30)}${catkin(36, 11, 26)}${catkin(43, 9, 22)}`,
  },
  'fruit.husk-split': {
    'to-the-base': `${husk}M24 6V42M16 10Q22 24 16 38M32 10Q26 24 32 38`,
    'part-way': `${husk}M24 6V24M16 10Q20 18 19 24M32 10Q28 18 29 24`,
    'not-at-all': husk + dot(24, 9, 1),
  },
  'fruit.acorn-cup': {
    'shallow-saucer': `${acornNut}M10 22Q10 16 24 16Q38 16 38 22Z`,
    'bowl-third': `${acornNut}M10 26Q8 12 24 12Q40 12 38 26Q24 30 10 26`,
    'deep-half': 'M14 30Q15 40 24 45Q33 40 34 30M9 32Q6 8 24 8Q42 8 39 32Q24 37 9 32',
    fringed:
      'M16 28Q17 36 24 41Q31 36 32 28M9 28Q6 8 24 8Q42 8 39 28Q24 33 9 28M9 28L6 36M14 30L12 38M34 30L36 38M39 28L42 36M19 31V38M29 31V38',
    'on-long-stalk': 'M24 2Q34 8 24 20' + acornNut.replaceAll('22', '26') + 'M12 26Q12 18 24 18Q36 18 36 26Z',
  },
}

const midrib = 'M24 46V6'
const leaflet = (x: number, y: number, dx: number) =>
  `M${x} ${y}Q${x + dx / 2} ${y - 6} ${x + dx} ${y - 3}Q${x + dx / 2} ${y + 3} ${x} ${y}`
const oval = 'M24 4Q40 16 36 32Q32 40 24 42Q16 40 12 32Q8 16 24 4'
const teeth = (coarse: boolean) =>
  spread(coarse ? 4 : 7, (i) => {
    const y = coarse ? 14 + 7 * i : 12 + 4 * i
    const w = 11 - Math.abs(24 - y) / 4
    return `M${24 + w} ${y}l4 -2M${24 - w} ${y}l-4 -2`
  })

/** Leaves on the ground, and fruit there. */
export const ground: Record<string, Record<string, string>> = {
  'ground.leaf': {
    'pointed-lobes': `${midrib}M24 4L28 12L36 8L34 17L44 18L37 25L43 33L32 33L27 41H21L16 33L5 33L11 25L4 18L14 17L12 8L20 12Z`,
    'rounded-lobes':
      `${midrib}M24 4Q32 6 29 13Q40 10 38 19Q34 22 31 23Q44 26 38 33Q32 34 29 36` +
      `L24 44L19 36Q16 34 10 33Q4 26 17 23Q14 22 10 19Q8 10 19 13Q16 6 24 4`,
    'maple-palmate': 'M24 46V34M24 34L16 36L17 31L4 28L8 24L4 15L13 17L15 12L19 17L24 4L29 17L33 12L35 17L44 15L40 24L44 28L31 31L32 36Z',
    'four-lobed-notched': 'M24 46V34M10 34Q6 28 10 24Q6 14 10 8L20 6L24 12L28 6L38 8Q42 14 38 24Q42 28 38 34Q24 38 10 34',
    star: 'M24 46V32M24 4L29 17L43 14L34 24L42 36L29 32H19L6 36L14 24L5 14L19 17Z',
    'mitten-and-three-lobed': 'M24 46V38Q6 38 8 24Q4 14 12 12Q16 12 17 20Q16 4 24 4Q32 4 31 20Q32 12 36 12Q44 14 40 24Q42 38 24 38',
    'toothed-oval': midrib + oval + teeth(false),
    'double-toothed-sandpaper':
      'M22 46V6M22 6Q38 14 36 30Q32 40 22 42M22 6Q10 18 10 30Q12 36 18 37M36 20l4 -1M37 27l4 0M35 34l4 1M12 22l-4 -1M10 29l-4 0' +
      spread(12, (i) => dot(15 + 5 * (i % 4), 18 + 7 * Math.floor(i / 4), 0.7)),
    'double-toothed-smooth': midrib + oval + teeth(true) + teeth(false),
    heart: 'M24 46V34Q10 40 6 26Q4 12 18 12Q23 13 24 18Q25 13 30 12Q44 12 42 26Q38 40 24 34M24 18V34',
    'triangle-or-round': 'M24 46V32M24 5L42 28Q36 36 24 32Q12 36 6 28Z',
    'narrow-long': 'M24 46V4M24 3Q31 20 28 36L24 44L20 36Q17 20 24 3',
    'leaflets-feather': midrib + spread(4, (i) => leaflet(24, 38 - 8 * i, 17) + leaflet(24, 38 - 8 * i, -17)) + 'M24 6Q29 2 24 0Q19 2 24 6',
    'leaflets-fan':
      'M24 46V30M24 30Q4 34 4 22Q14 18 24 30M24 30Q10 18 12 8Q22 12 24 30M24 30Q20 12 24 2Q28 12 24 30' +
      'M24 30Q26 12 36 8Q38 18 24 30M24 30Q34 18 44 22Q44 34 24 30',
    'plain-oval': midrib + oval,
  },
  'ground.fruit': kinds,
}

const needles = (n: number) => spread(n, (i) => line(24 + (i - (n - 1) / 2) * 1.4, 40, 24 + (i - (n - 1) / 2) * 9, 4))
const row = (up: boolean) =>
  spread(
    8,
    (i) =>
      line(4 + 5.5 * i, 28, 2 + 5.5 * i, up ? 12 : 18) +
      (up ? line(6 + 5.5 * i, 28, 6 + 5.5 * i, 10) : line(4 + 5.5 * i, 28, 2 + 5.5 * i, 38)),
  )

/** Needles and evergreen leaves. */
export const needle: Record<string, Record<string, string>> = {
  'needle.kept': {
    bare: 'M24 46V6M24 34L10 20M24 28L38 14M24 20L16 10M15 25V14M33 19V8',
    needles: `M4 28H46${row(false)}`,
    'scale-leaves':
      'M24 46V4' +
      spread(
        6,
        (i) =>
          `M24 ${44 - 7 * i}Q17 ${42 - 7 * i} 18 ${36 - 7 * i}Q24 ${38 - 7 * i} 24 ${44 - 7 * i}` +
          `Q31 ${42 - 7 * i} 30 ${36 - 7 * i}Q24 ${38 - 7 * i} 24 ${44 - 7 * i}`,
      ),
    'broad-evergreen': 'M24 46V6M24 4L28 10L36 9L33 17L40 23L33 28L37 36L27 37L24 44L21 37L11 36L15 28L8 23L15 17L12 9L20 10Z',
  },
  'needle.bundle': {
    single: 'M4 34H46' + spread(6, (i) => line(8 + 6.4 * i, 34, 6 + 6.4 * i, 12)),
    twos: `${needles(2)}M21 46V40H27V46`,
    threes: `${needles(3)}M21 46V40H27V46`,
    fives: `${needles(5)}M20 46V40H28V46`,
    'tufts-on-spurs':
      'M2 40H46M12 40V32H20V40M30 40V32H38V40' +
      [16, 34].map((x) => spread(7, (i) => line(x, 32, x - 12 + 4 * i, 10 + Math.abs(3 - i) * 2))).join(''),
  },
  'needle.set': {
    'flat-two-ranks': `M2 28H46${row(false)}`,
    'swept-up': `M2 28H46${row(true)}`,
    'all-round':
      'M2 28H46' +
      spread(
        8,
        (i) => line(4 + 5.5 * i, 28, 4 + 5.5 * i, 10) + line(5 + 5.5 * i, 28, 1 + 5.5 * i, 16) + line(4 + 5.5 * i, 28, 6 + 5.5 * i, 44),
      ),
  },
  'needle.pale-lines': {
    'two-bright': `${wide('M24 3Q34 12 33 38L24 45L15 38Q14 12 24 3')}M20 10V38M21.5 10V38M26.5 10V38M28 10V38`,
    'two-dull': `${wide('M24 3Q34 12 33 38L24 45L15 38Q14 12 24 3')}M20 12V16M20 20V24M20 28V32M28 12V16M28 20V24M28 28V32`,
    none: wide('M24 3Q34 12 33 38L24 45L15 38Q14 12 24 3') + 'M24 8V42',
  },
}
