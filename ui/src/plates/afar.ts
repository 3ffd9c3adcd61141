import { dot, line, spread, trunk, wide } from './pen'

const land = (d: string) => d
/** A tree so small that it only marks a place. */
const mark = (x: number, y: number) => line(x, y, x, y - 9) + dot(x, y - 13, 4)

/** Where the tree stands, and how wet. */
export const setting: Record<string, Record<string, string>> = {
  'setting.landform': {
    ridge: land('M2 44Q16 40 24 20Q32 40 46 44') + mark(24, 20),
    slope: land('M2 14Q20 16 46 44') + mark(22, 23),
    cove: land('M2 14Q10 38 24 38Q38 38 46 14') + mark(24, 38),
    flat: land('M2 26H34Q42 28 46 44') + mark(18, 26),
    bottomland: land('M2 34H30M34 34Q38 42 46 42M2 42H26M36 38H46') + mark(16, 34),
    streambank: land('M2 28H20L26 40H46M30 34Q34 31 38 34T46 34') + mark(15, 28),
    swamp: land('M2 36Q8 32 14 36T26 36T38 36T46 36M6 42Q12 38 18 42T30 42T42 42') + mark(24, 36),
    'old-field': land('M2 38H46') + mark(34, 38) + spread(7, (i) => line(4 + 4 * i, 38, 5 + 4 * i, 31)),
    fencerow: land('M2 40H46M4 40V24M16 40V24M32 40V24M44 40V24M4 28H16M32 28H44M4 34H16M32 34H44') + mark(24, 40),
    planted: land('M2 42H46') + mark(8, 42) + mark(24, 42) + mark(40, 42),
  },
  'setting.moisture': {
    dry:
      land('M4 40H44M10 40L14 34M24 40L20 33M34 40L38 34') +
      dot(24, 14, 7) +
      spread(8, (i) => {
        const a = (Math.PI * i) / 4
        return line(24 + 10 * Math.cos(a), 14 + 10 * Math.sin(a), 24 + 13 * Math.cos(a), 14 + 13 * Math.sin(a))
      }),
    mesic: land('M4 40H44') + wide('M24 14Q32 26 24 32Q16 26 24 14'),
    moist: land('M4 40H44') + wide('M16 12Q24 24 16 30Q8 24 16 12') + wide('M33 18Q40 28 33 34Q26 28 33 18'),
    wet: land('M4 34Q9 30 14 34T24 34T34 34T44 34M4 42Q9 38 14 42T24 42T34 42T44 42') + wide('M24 8Q31 18 24 24Q17 18 24 8'),
  },
}

const bush = (x: number) => `M24 44Q${(24 + x) / 2} 30 ${x} 10`
const boleTop = 'M10 16Q10 3 24 3Q38 3 38 16'

/** Habit, bole, limbs and spray, as they stand against the sky. */
export const form: Record<string, Record<string, string>> = {
  'form.habit': {
    'single-stem': line(22, 46, 22, 24) + line(26, 46, 26, 24) + dot(24, 15, 11),
    'forked-low': 'M24 46V36L15 22M24 36L33 22' + dot(14, 14, 8) + dot(34, 14, 8),
    'many-stemmed-tree': 'M20 46Q18 34 12 22M24 46V20M28 46Q30 34 36 22' + wide('M4 20Q6 4 24 4Q42 4 44 20Q24 30 4 20'),
    'shrub-clump': [6, 15, 24, 33, 42].map(bush).join('') + 'M24 44Q20 26 19 14M24 44Q28 26 29 14',
    thicket: spread(8, (i) => line(4 + 5.7 * i, 44, 5 + 5.7 * i, 18 + 5 * (i % 3)) + line(4.5 + 5.7 * i, 30, 8 + 5.7 * i, 23)),
    vine: line(30, 46, 30, 2) + line(36, 46, 36, 2) + 'M26 46Q42 40 38 32Q24 30 27 22Q42 20 38 10Q28 8 28 2',
  },
  'form.bole': {
    'straight-clear': line(21, 46, 21, 18) + line(27, 46, 27, 18) + boleTop,
    'straight-limbed': line(21, 46, 21, 10) + line(27, 46, 27, 10) + 'M21 36L8 30M27 32L40 25M21 25L9 18M27 20L39 13',
    crooked: 'M20 46Q12 36 22 28Q30 20 19 8M27 46Q20 36 29 29Q37 20 27 6',
    leaning: line(8, 46, 30, 6) + line(15, 46, 37, 6) + 'M2 46H46',
    fluted: 'M14 46Q20 26 18 4M34 46Q28 26 30 4M21 46Q24 26 22 4M27 46Q23 26 26 4',
  },
  'form.limbs': {
    ascending: `${trunk}M24 34V6M24 30Q14 24 8 10M24 30Q34 24 40 10M24 22Q18 16 15 6M24 22Q30 16 33 6`,
    level: `${trunk}M24 34V4M24 30H4M24 26H44M24 18H8M24 14H40`,
    drooping: `${trunk}M24 34V4M24 14Q10 14 5 32M24 12Q38 12 43 32M24 8Q14 8 10 18M24 7Q34 7 38 18`,
    'upturned-tips': `${trunk}M24 34V4M24 18Q12 32 4 30Q2 24 4 20M24 18Q36 32 44 30Q46 24 44 20`,
    'tiered-whorls': `${trunk}M24 34V3M6 30H42M10 20H38M14 10H34M6 30L3 27M42 30L45 27M10 20L8 18M38 20L40 18`,
  },
  'form.spray': Object.fromEntries(
    [
      ['very-fine', 15, 1],
      ['fine', 10, 1],
      ['medium', 7, 1],
      ['coarse', 5, 2],
      ['very-coarse', 3, 3],
    ].map(([id, n, thick]) => [
      id,
      spread(n as number, (i) => {
        const a = Math.PI * (0.12 + (0.76 * i) / ((n as number) - 1))
        const [x, y] = [24 - 22 * Math.cos(a), 46 - 40 * Math.sin(a)]
        return spread(thick as number, (k) => line(24 + k * 1.6, 46, x + k * 1.6, y))
      }),
    ]),
  ),
}
