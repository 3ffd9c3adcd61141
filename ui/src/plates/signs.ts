import { branch, dot, edges, egg, line, onTip, ridges, spread, stem, twig } from './pen'

const seen = (d: string) => ({ seen: d })
const post = line(18, 46, 18, 2) + line(30, 46, 30, 2)

/** Signs, as they look where they are seen. */
export const signs: Record<string, Record<string, string>> = {
  'form.suckers': seen(
    `${line(22, 42, 22, 6)}${line(26, 42, 26, 6)}M2 42H46` + [6, 12, 34, 40].map((x) => `M${x} 42V26M${x} 34L${x + 3} 29`).join(''),
  ),
  'form.trunk-sprouts': seen(post + spread(5, (i) => line(30, 30, 44, 18 + 5 * i) + line(18, 20, 4, 8 + 5 * i))),
  'bark.sheds-on-rub': seen(`${edges}M12 14H28M12 20H26M12 26H28M30 12Q40 18 34 30M34 38l2 2M28 40l2 3M38 42l2 2M24 44l2 2`),
  'bark.rings-target': seen(edges + dot(24, 24, 4) + dot(24, 24, 9) + dot(24, 24, 14)),
  'bark.pale-runs': seen(`${ridges(8, 40)}M14 4V44M20 4V44M27 4V44M33 4V44M14 4H20M27 4H33M14 44H20M27 44H33`),
  'bark.stripes': seen(`${edges}M13 4Q15 24 13 44M20 4Q18 24 20 44M27 4Q29 24 27 44M34 4Q32 24 34 44`),
  'bark.speckles': seen(edges + spread(14, (i) => dot(11 + 8 * (i % 4) + (Math.floor(i / 4) % 2) * 3, 9 + 9 * Math.floor(i / 4), 1.5))),
  'bark.cork-ridges': seen('M12 46V34L8 32V26L12 24V14L8 12V6L12 4M36 46V38L41 36V28L36 26V18L41 16V8L36 6M20 4V46M28 4V46'),
  'bark.trunk-thorns': seen(`${post}M30 14L46 6M38 10L42 2M30 34L46 28M18 24L2 16M10 20L6 12`),
  'bark.burrs': seen('M18 46V36Q8 34 8 26Q8 18 18 17V2M30 46V30Q38 30 39 24Q38 17 30 16V2' + dot(14, 25, 2) + dot(33, 22, 2)),
  'bark.resin-blisters': seen(`${edges}M12 14Q17 8 22 14ZM28 22Q33 16 38 22ZM12 32Q17 26 22 32ZM28 40Q33 34 38 40Z`),
  'twig.glands': seen(
    twig +
      spread(
        7,
        (i) => line(6 + 6 * i, 18, 6 + 6 * i, 9) + dot(6 + 6 * i, 7, 1.6) + line(8 + 6 * i, 32, 8 + 6 * i, 40) + dot(8 + 6 * i, 42, 1.6),
      ),
  ),
  'twig.zigzag': seen('M18 46L30 34L18 22L30 10L24 2M30 34L38 32M18 22L10 20M30 10L38 8'),
  'twig.spurs': seen(
    stem +
      [
        [36, 1],
        [26, -1],
        [16, 1],
      ]
        .map(([y, s]) => `M24 ${y}h${8 * s}m0 -3v6m${2 * s} -6v6m${2 * s} -6v6` + dot(24 + 15 * s, y, 2))
        .join(''),
  ),
  'twig.milky-sap': seen('M14 2L14 24L30 34V2M14 24Q12 34 16 34Q20 33 17 25M22 29Q20 41 24 42Q28 41 26 32'),
  'twig.wood-ridges': seen('M4 14H22M4 34H22M22 12Q28 24 22 36M22 16H46M22 32H46M26 20H44M24 24H42M26 28H44'),
  'bud.keeled': seen(onTip(`${egg}M24 10V34M24 14L28 18M24 22L28 26`) + 'M16 20L20 12M32 20L28 12'),
  'bud.last-pair-close': seen(
    'M20 46V34M28 46V34' + egg.replace('M24 10', 'M24 6') + 'M20 34Q9 30 12 20Q18 24 20 34M28 34Q39 30 36 20Q30 24 28 34',
  ),
  'scar.fringe': seen('M8 22H40Q38 40 24 42Q10 40 8 22' + spread(11, (i) => line(9 + 3 * i, 20, 8 + 3.2 * i, 12))),
  'scar.pairs-meet': seen('M18 46V2M30 46V2M6 26Q12 34 24 30Q36 34 42 26M6 26Q10 20 18 22M42 26Q38 20 30 22M18 25Q24 27 30 25'),
  'fruit.hanging': seen('M4 8Q24 14 44 8M14 10V22M24 12V28M35 10V22' + dot(14, 26, 4) + dot(24, 33, 5) + dot(35, 26, 4)),
  'fruit.leaves-held': seen(
    stem + branch(36, -1) + branch(24, 1) + 'M10 26Q2 30 5 40Q12 36 10 26M38 14Q46 18 43 28Q36 24 38 14M24 4Q32 8 30 16Q22 14 24 4',
  ),
  'fruit.husk-ridges': seen(dot(24, 26, 16) + 'M24 10V42M12 15Q20 26 12 37M36 15Q28 26 36 37M24 10L20 4M24 10L28 4'),
  'ground.stringy-limbs': seen(
    'M2 20L40 10M4 28L42 18M40 10L46 14L42 18M14 25Q18 36 12 44M20 23Q26 34 20 42M28 21Q34 32 30 42M34 20Q42 30 38 40',
  ),
  'sign.d-holes': seen(
    edges +
      [
        [14, 14],
        [30, 20],
        [18, 32],
        [33, 37],
      ]
        .map(([x, y]) => `M${x - 4} ${y}H${x + 4}Q${x + 4} ${y - 8} ${x} ${y - 8}Q${x - 4} ${y - 8} ${x - 4} ${y}`)
        .join(''),
  ),
  'sign.black-knots': seen(
    'M4 24H14Q16 14 22 18Q28 10 32 18Q38 20 36 24H46M4 30H14Q18 40 24 34Q30 40 36 30H46' +
      dot(20, 24, 1.5) +
      dot(27, 22, 1.5) +
      dot(25, 29, 1.5) +
      dot(31, 27, 1.5),
  ),
  'sign.bark-cankers': seen(edges + dot(15, 13, 4) + dot(31, 17, 5) + dot(17, 29, 5) + dot(32, 35, 4) + 'M13 13h4M28 17h6M14 29h6M30 35h4'),
  'sign.hole-rows': seen(edges + [12, 24, 36].map((y) => spread(5, (i) => dot(11 + 6.5 * i, y, 1.5))).join('')),
  'sign.ear-fungus': seen(
    `${line(10, 46, 10, 2)}${line(18, 46, 18, 2)}M18 12Q34 6 36 16Q32 26 18 20` +
      `M24 14Q30 12 31 17M18 28Q38 22 40 34Q34 44 18 36M24 31Q33 28 34 35`,
  ),
  'sign.wet-streaks': seen(edges + dot(24, 10, 4) + 'M22 14Q20 28 22 42M25 14Q27 28 24 44M28 13Q31 22 29 32'),
}
