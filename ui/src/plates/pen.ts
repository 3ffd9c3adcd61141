/** The shapes that all drawings are made of: a box of 48 by 48, stroked and not filled. */

export const dot = (x: number, y: number, r = 1.6) => `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`
export const line = (...p: number[]) =>
  `M${p[0]} ${p[1]}` +
  pairs(p.slice(2))
    .map(([x, y]) => `L${x} ${y}`)
    .join('')
export const pairs = (p: number[]) => p.flatMap((x, i) => (i % 2 ? [] : [[x, p[i + 1]]]))
export const spread = (n: number, f: (i: number) => string) => Array.from({ length: n }, (_, i) => f(i)).join('')

export const stem = line(24, 46, 24, 4)
/** A side twig at height y to one side (-1 left, 1 right). */
export const branch = (y: number, side: number) => `M24 ${y}Q${24 + side * 7} ${y - 3} ${24 + side * 14} ${y - 10}`
export const trunk = line(23, 46, 23, 34) + line(26, 46, 26, 34)
/** A twig's tip below a bud. */
export const tip = line(20, 46, 20, 34) + line(28, 46, 28, 34)
export const onTip = (bud: string) => tip + bud
export const egg = 'M24 10C33 18 33 30 28 34H20C15 30 15 18 24 10'
export const wide = (d: string) => `${d}Z`
export const ridges = (...xs: number[]) => xs.map((x) => `M${x} 4Q${x + 3} 16 ${x} 24T${x} 44`).join('')
/** The two edges of a trunk seen close. */
export const edges = line(6, 4, 6, 44) + line(42, 4, 42, 44)
/** A thick twig from the left to the right, seen from the side. */
export const twig = line(2, 18, 46, 18) + line(2, 32, 46, 32)
