/** A drawn part of a plate: a path in millimetres, and the character it shows. */
export interface Part {
  d: string
  character: string
  of: 'twig' | 'end-bud' | 'side-bud' | 'scar' | 'trace' | 'scale' | 'hair' | 'mark' | 'arm' | 'pith' | 'needle'
  fill?: string
  faint?: boolean
  thin?: boolean
  pen?: number // breadth of the stroke, where it is its own
}

/** Half the width of a bud as a part of its length. */
const slimness: Record<string, number> = {
  round: 0.48,
  egg: 0.32,
  cone: 0.26,
  spindle: 0.11,
  'flat-paddle': 0.24,
  dome: 0.62,
  'stalked-club': 0.22,
  sunken: 0.4,
}

type Place = (along: number, across: number) => string

/** A frame at x, y that points away from up by an angle (degrees, to the right): along the bud, and across it. */
export function frame(x: number, y: number, angle: number): Place {
  const a = (angle * Math.PI) / 180
  const [sin, cos] = [Math.sin(a), Math.cos(a)]
  return (u, v) => `${(x + u * sin + v * cos).toFixed(2)} ${(y - u * cos + v * sin).toFixed(2)}`
}

/** The outline of a bud of a length and shape, in a frame. */
export function budOutline(at: Place, length: number, shape: string): string {
  const w = length * (slimness[shape] ?? slimness.egg)
  const l = shape === 'dome' ? length * 0.6 : shape === 'sunken' ? length * 0.5 : length
  switch (shape) {
    case 'round':
      return (
        `M${at(0, -w * 0.5)}C${at(l * 0.2, -w * 1.35)} ${at(l, -w * 1.2)} ${at(l, 0)}` +
        `C${at(l, w * 1.2)} ${at(l * 0.2, w * 1.35)} ${at(0, w * 0.5)}Z`
      )
    case 'cone':
      return `M${at(0, -w)}Q${at(l * 0.5, -w * 0.8)} ${at(l, 0)}Q${at(l * 0.5, w * 0.8)} ${at(0, w)}Z`
    case 'dome':
    case 'sunken':
      return `M${at(0, -w)}C${at(l * 0.9, -w)} ${at(l, -w * 0.4)} ${at(l, 0)}C${at(l, w * 0.4)} ${at(l * 0.9, w)} ${at(0, w)}Z`
    case 'flat-paddle':
      return (
        `M${at(0, -w * 0.35)}C${at(l * 0.4, -w * 1.5)} ${at(l * 0.9, -w * 1.4)} ${at(l, 0)}` +
        `C${at(l * 0.9, w * 1.4)} ${at(l * 0.4, w * 1.5)} ${at(0, w * 0.35)}Z`
      )
    case 'stalked-club':
      return (
        `M${at(0, -w * 0.4)}L${at(l * 0.25, -w * 0.4)}C${at(l * 0.4, -w * 1.5)} ${at(l * 0.85, -w)} ${at(l, 0)}` +
        `C${at(l * 0.85, w)} ${at(l * 0.4, w * 1.5)} ${at(l * 0.25, w * 0.4)}L${at(0, w * 0.4)}Z`
      )
    default: // egg and spindle
      return (
        `M${at(0, -w * 0.6)}C${at(l * 0.3, -w * 1.4)} ${at(l * 0.75, -w * 0.8)} ${at(l, 0)}` +
        `C${at(l * 0.75, w * 0.8)} ${at(l * 0.3, w * 1.4)} ${at(0, w * 0.6)}Z`
      )
  }
}

/** How many scales are drawn: as counted where they overlap, else as their kind says. */
export function scaleCount(scales: string | undefined, counted: number | undefined): number {
  switch (scales) {
    case 'one-cap':
      return 1
    case 'two-edge-to-edge':
      return 2
    case 'few-overlapping':
      return Math.max(2, Math.round(counted ?? 4))
    case 'many-overlapping':
      return Math.min(24, Math.max(6, Math.round(counted ?? 12)))
    default:
      return 0
  }
}

/** The edges of the scales on a bud, one path for each scale; a naked bud shows the folds of its leaves instead. */
export function scaleEdges(at: Place, length: number, shape: string, scales: string | undefined, count: number): string[] {
  const w = length * (slimness[shape] ?? slimness.egg)
  const l = shape === 'dome' ? length * 0.6 : length
  if (scales === 'naked') {
    return [-0.45, 0, 0.45].map((v) => `M${at(l * 0.08, w * v)}Q${at(l * 0.5, w * v * 1.6)} ${at(l * 0.92, w * v * 0.3)}`)
  }
  if (count === 1) return [`M${at(l * 0.05, w * 0.2)}L${at(l * 0.1, w * 0.2)}`]
  if (count === 2) return [`M${at(0, 0)}L${at(l, 0)}`, `M${at(l * 0.02, w * 0.08)}L${at(l * 0.98, w * 0.04)}`]
  return Array.from({ length: count }, (_, i) => {
    const u = (l * 0.86 * i) / count
    const side = i % 2 ? 1 : -1
    const wide = w * (1 - (i / count) ** 2 * 0.8)
    return `M${at(u, -wide * 0.9)}Q${at(u + (l * 1.6) / count, side * wide * 0.25)} ${at(u, wide * 0.9)}`
  })
}
