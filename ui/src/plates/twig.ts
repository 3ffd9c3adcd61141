import { fill } from './colors'
import { scarOutlines, traces } from './strokes'
import { budOutline, frame, scaleCount, scaleEdges, type Part } from './bud'
import type { Shows } from './shows'

/** The part of the world that a twig plate shows, in millimetres. */
export const box = { left: -19, top: -4, width: 57, height: 84 }

const tipY = 26 // where the twig ends and the end bud begins
const cutY = 78
const nodes = [40, 53, 66]
/** Where the leaf scar and the pith are drawn enlarged. */
export const lens = { scar: { x: 26, y: 42, size: 19 }, pith: { x: 26, y: 66, size: 19 } }

const angles: Record<string, number> = { pressed: 9, spreading: 42, 'tipped-aside': 24, 'above-a-gap': 26, hidden: 12 }

/** A winter twig to scale, from what is known; what is not known is drawn faint as an ordinary twig. */
export function twigParts(shows: Shows): Part[] {
  const state = (id: string) => shows.get(id)?.state
  const seen = (id: string) => shows.get(id)?.seen === true
  const number = (id: string, usual: number) => shows.get(id)?.value ?? usual
  const unknown = (id: string) => !shows.has(id)

  const d = Math.min(12, number('twig.diameter', 3))
  const bend = seen('twig.zigzag') ? Math.max(1.2, d * 0.5) : 0
  const axis = (y: number) => bend * Math.cos((Math.PI * (y - nodes[0])) / (nodes[1] - nodes[0]))
  const half = (y: number) => (d / 2) * (0.8 + (0.2 * (y - tipY)) / (cutY - tipY))
  const parts: Part[] = []
  const put = (p: Part) => parts.push(p)

  const ys = [tipY, ...nodes, cutY]
  const side = (s: number) => ys.map((y) => `${(axis(y) + s * half(y)).toFixed(2)} ${y}`)
  put({
    d: `M${side(-1).join('L')}L${side(1).reverse().join('L')}Z`,
    character: unknown('twig.color') ? 'twig.diameter' : 'twig.color',
    of: 'twig',
    fill: fill(state('twig.color')),
    faint: unknown('twig.diameter'),
  })

  const length = Math.min(30, number('bud.length', 6))
  const shape = state('bud.shape') ?? 'egg'
  const scales = state('bud.scales')
  const count = scaleCount(scales, shows.get('bud.scale-count')?.value)
  const faintBud = unknown('bud.shape')
  function bud(x: number, y: number, angle: number, l: number, of: 'end-bud' | 'side-bud') {
    const at = frame(x, y, angle)
    put({ d: budOutline(at, l, shape), character: 'bud.shape', of, fill: fill(state('bud.color')), faint: faintBud })
    if (!unknown('bud.scales')) {
      for (const edge of scaleEdges(at, l, shape, scales, count))
        put({ d: edge, character: 'bud.scales', of: 'scale', pen: Math.min(0.28, l * 0.022) })
    }
    const coat = state('bud.coat')
    if (coat && coat !== 'bare' && of === 'end-bud') put({ d: coatMarks(at, l, coat), character: 'bud.coat', of: 'hair', thin: true })
  }

  // The end of the twig.
  const tip = state('bud.tip') ?? 'true-end-bud'
  const endX = axis(tipY)
  if (tip === 'pair-at-end') [-24, 24].forEach((a) => bud(endX + Math.sign(a) * d * 0.25, tipY, a, length, 'end-bud'))
  else if (tip === 'cluster-at-end')
    [-46, 46, -24, 24, 0].forEach((a) => bud(endX + Math.sin(a / 30) * d * 0.3, tipY + (a ? 1 : 0), a, length * (a ? 0.75 : 1), 'end-bud'))
  else if (tip === 'side-bud-at-end') {
    bud(endX + d * 0.2, tipY + 0.5, 22, length, 'end-bud')
    put({ d: `M${endX - d * 0.4} ${tipY}L${endX - d * 0.4 - 1} ${tipY - 2}`, character: 'bud.tip', of: 'mark' })
  } else bud(endX, tipY, 0, length, 'end-bud')
  if (seen('bud.last-pair-close')) [-1, 1].forEach((s) => bud(endX + s * half(tipY), tipY + 1, s * 20, length * 0.55, 'side-bud'))

  if (state('needle.kept') === 'needles' || state('needle.kept') === 'scale-leaves') {
    foliage(put, shows, axis, half)
    lenses(put, shows)
    return parts
  }

  // Side buds at the nodes.
  const arrangement = state('twig.arrangement') ?? 'alternate'
  const stance = state('bud.stance') ?? 'pressed'
  const sideLength = length * (stance === 'hidden' ? 0.3 : 0.62)
  nodes.forEach((y, i) => {
    const sides = arrangement === 'alternate' ? [i % 2 ? -1 : 1] : [-1, 1]
    for (const s of sides) {
      const at = arrangement === 'subopposite' && s > 0 ? y - 4 : y
      const gap = stance === 'above-a-gap' ? 3 : 0
      const x = axis(at) + s * half(at)
      bud(x - s * 0.2, at - gap, s * (angles[stance] ?? 20) + (stance === 'tipped-aside' ? 14 : 0), sideLength, 'side-bud')
      put({
        d: `M${x.toFixed(2)} ${at + 0.2}q${s * d * 0.26} 0.2 ${s * d * 0.2} ${0.9 + d * 0.12}q${-s * d * 0.14} 0.4 ${-s * d * 0.2} 0.3Z`,
        character: 'twig.arrangement',
        of: 'scar',
        faint: unknown('twig.arrangement'),
      })
      if (state('twig.arms') === 'paired-spines')
        [-1, 1].forEach((k) =>
          put({ d: `M${x} ${at + k * 1.6 - 0.8}l${s * 6} ${k * 2.4 - 0.6}l${-s * 6} ${2 - k * 1.2}`, character: 'twig.arms', of: 'arm' }),
        )
      if (state('twig.arms') === 'single-thorns') put({ d: `M${x} ${at + 3}l${s * 16} -5l${-s * 16} 7`, character: 'twig.arms', of: 'arm' })
      if (state('twig.arms') === 'branched-thorns')
        put({
          d: `M${x} ${at + 3}l${s * 18} -6l${-s * 10} 5.4l${s * 5} -6.5l${-s * 7.5} 6.4l${-s * 5.5} 2.4`,
          character: 'twig.arms',
          of: 'arm',
        })
    }
    if (arrangement === 'whorled') bud(axis(y), y, 0, sideLength, 'side-bud')
    const ring = state('twig.stipule-marks')
    const [l, r] = [axis(y) - half(y), axis(y) + half(y)]
    if (ring === 'full-ring')
      put({ d: `M${l} ${y - 0.6}Q${axis(y)} ${y + 0.8} ${r} ${y - 0.6}`, character: 'twig.stipule-marks', of: 'mark' })
    if (ring === 'slits')
      put({
        d: `M${l + d * 0.12} ${y - 1.2}l${d * 0.14} 1.6M${r - d * 0.12} ${y - 1.2}l${-d * 0.14} 1.6`,
        character: 'twig.stipule-marks',
        of: 'mark',
        thin: true,
      })
  })

  surface(put, shows, d, axis, half)
  lenses(put, shows)
  return parts
}

/** Needles in their bundles and ranks, or scale leaves, in place of side buds and scars. */
function foliage(put: (p: Part) => void, shows: Shows, axis: (y: number) => number, half: (y: number) => number) {
  const state = (id: string) => shows.get(id)?.state
  if (state('needle.kept') === 'scale-leaves') {
    const scales = Array.from({ length: 16 }, (_, i) => {
      const y = cutY - 1 - i * 3.1
      return [-1, 1].map((s) => `M${axis(y)} ${y}q${s * 2.6} -0.6 ${s * 2.4} -3q${-s * 1.6} 0.4 ${-s * 2.4} 1.2`).join('')
    })
    put({ d: scales.join(''), character: 'needle.kept', of: 'needle' })
    return
  }
  const length = Math.min(17, (shows.get('needle.length')?.value ?? 15) * 0.8)
  const inBundle: Record<string, number> = { twos: 2, threes: 3, fives: 5, 'tufts-on-spurs': 9 }
  const bundle = inBundle[state('needle.bundle') ?? ''] ?? 1
  const lift: Record<string, number> = { 'flat-two-ranks': 0.15, 'swept-up': 0.9, 'all-round': 0.6 }
  const up = lift[state('needle.set') ?? ''] ?? 0.5
  const step = bundle > 1 ? 6 : 2.6
  const needles: string[] = []
  for (let y = tipY + 3; y < cutY; y += step) {
    for (const s of [-1, 1]) {
      for (let k = 0; k < bundle; k++) {
        const a = up + (bundle > 1 ? (k - (bundle - 1) / 2) * 0.16 : 0)
        needles.push(
          `M${(axis(y) + s * half(y)).toFixed(2)} ${y.toFixed(2)}` +
            `l${(s * length * Math.cos(a)).toFixed(2)} ${(-length * Math.sin(a)).toFixed(2)}`,
        )
      }
    }
  }
  for (const one of needles) put({ d: one, character: bundle > 1 ? 'needle.bundle' : 'needle.set', of: 'needle', thin: true })
}

/** What covers the twig: hair, lenticels, wings, thorns without a node, spurs. */
function surface(put: (p: Part) => void, shows: Shows, d: number, axis: (y: number) => number, half: (y: number) => number) {
  const state = (id: string) => shows.get(id)?.state
  const hairs: Record<string, [number, number]> = { sparse: [9, 0.8], downy: [26, 0.9], velvety: [60, 1.5] }
  const hair = hairs[state('twig.hair') ?? '']
  if (hair) {
    const strokes = Array.from({ length: hair[0] }, (_, i) => {
      const y = tipY + 2 + ((cutY - tipY - 3) * i) / hair[0]
      return (
        `M${(axis(y) - half(y)).toFixed(2)} ${y.toFixed(1)}l${-hair[1]} -0.3` +
        `M${(axis(y) + half(y)).toFixed(2)} ${y.toFixed(1)}l${hair[1]} -0.3`
      )
    })
    put({ d: strokes.join(''), character: 'twig.hair', of: 'hair', thin: true })
  }
  const lenticels = state('twig.lenticels')
  if (lenticels && lenticels !== 'faint') {
    const marks = Array.from({ length: 12 }, (_, i) => {
      const y = tipY + 4 + i * 3.9
      const x = axis(y) + half(y) * (((i * 37) % 11) / 8 - 0.65)
      return lenticels === 'long-dashes'
        ? `M${x.toFixed(2)} ${y}v2.2`
        : `M${x.toFixed(2)} ${y}h${lenticels === 'raised-warts' ? 0.7 : 0.25}`
    })
    put({ d: marks.join(''), character: 'twig.lenticels', of: 'mark', thin: true })
  }
  const section = state('twig.section-outline')
  if (section === 'corky-winged') {
    for (const s of [-1, 1]) {
      const wing = [30, 36, 42, 48, 54, 60, 66, 72].map((y, i) => `${(axis(y) + s * (half(y) + (i % 2 ? 2.2 : 1.2))).toFixed(2)} ${y}`)
      put({
        d: `M${axis(28) + s * half(28)} 28L${wing.join('L')}L${axis(76) + s * half(76)} 76`,
        character: 'twig.section-outline',
        of: 'mark',
      })
    }
  } else if (section === 'ribbed' || section === 'angled') {
    const ribs = section === 'ribbed' ? [-0.5, 0, 0.5] : [-0.2]
    put({
      d: ribs
        .map((r) => `M${(axis(tipY) + r * half(tipY)).toFixed(2)} ${tipY}L${(axis(cutY) + r * half(cutY)).toFixed(2)} ${cutY}`)
        .join(''),
      character: 'twig.section-outline',
      of: 'mark',
      thin: true,
    })
  }
  if (state('twig.arms') === 'prickles') {
    for (const [y, s] of [
      [33, 1],
      [46, -1],
      [58, 1],
      [72, -1],
    ])
      put({ d: `M${axis(y) + s * half(y)} ${y - 0.9}l${s * 3} 1.4l${-s * 3} 0.8`, character: 'twig.arms', of: 'arm' })
  }
  if (state('twig.arms') === 'thorn-tips') put({ d: `M${axis(60) + half(60)} 60l12 -4.5l-12 6.2`, character: 'twig.arms', of: 'arm' })
  if (shows.get('twig.spurs')?.seen) {
    const x = axis(59) - half(59)
    put({
      d: `M${x} 57.6h-5M${x} 60.4h-5M${x - 1.4} 57.6v2.8M${x - 2.8} 57.6v2.8M${x - 4.2} 57.6v2.8M${x - 5} 57.2q-2.6 1.8 0 3.6Z`,
      character: 'twig.spurs',
      of: 'mark',
      thin: true,
    })
  }
  if (state('twig.finish') === 'waxy-bloom')
    put({
      d: Array.from(
        { length: 20 },
        (_, i) => `M${(axis(29 + 2.4 * i) + d * (((i * 29) % 13) / 16 - 0.36)).toFixed(2)} ${(29 + 2.4 * i).toFixed(1)}h0.1`,
      ).join(''),
      character: 'twig.finish',
      of: 'mark',
      thin: true,
    })
  if (state('twig.finish') === 'shiny')
    put({ d: `M${axis(46) - half(46) * 0.45} 43v6M${axis(60) - half(60) * 0.45} 57v6`, character: 'twig.finish', of: 'mark', thin: true })
}

/** The leaf scar with its traces, and the cut with its pith, as through a hand lens. */
function lenses(put: (p: Part) => void, shows: Shows) {
  const state = (id: string) => shows.get(id)?.state
  const into = (d: string, at: { x: number; y: number; size: number }) => place(d, at.x - at.size / 2, at.y - at.size / 2, at.size / 48)
  const shape = state('scar.shape')
  const leafy = state('needle.kept') === 'needles' || state('needle.kept') === 'scale-leaves'
  if (!leafy) put({ d: into(scarOutlines[shape ?? 'half-round'], lens.scar), character: 'scar.shape', of: 'scar', faint: !shape })
  const bundles = state('scar.bundles')
  if (bundles) {
    for (const one of (traces[bundles] ?? '').split(/(?=M)/).filter(Boolean))
      put({
        d: into(one, lens.scar),
        character: 'scar.bundles',
        of: 'trace',
        thin: true,
        fill: one.includes('a') ? 'currentColor' : 'none',
      })
  }
  if (shows.get('scar.fringe')?.seen) {
    put({
      d: into(Array.from({ length: 11 }, (_, i) => `M${9 + 3 * i} 15L${8 + 3.2 * i} 8`).join(''), lens.scar),
      character: 'scar.fringe',
      of: 'hair',
      thin: true,
    })
  }
  const pith = state('twig.pith')
  if (pith)
    put({ d: into(pithMarks[pith] ?? '', lens.pith), character: 'twig.pith', of: 'pith', fill: fill(state('twig.pith-color')), thin: true })
}

const window = 'M16 6V42H32V6Z'
const rungs = (n: number, h: number) =>
  Array.from({ length: n }, (_, i) => `M16 ${8 + (34 * i) / n}H32${h ? `M16 ${8 + (34 * i) / n + h}H32` : ''}`).join('')
const pithMarks: Record<string, string> = {
  solid: window,
  chambered: window + rungs(7, 0),
  barred: window + rungs(4, 2.5),
  'barred-at-nodes': `${window}M16 22H32M16 26H32`,
  'spongy-wide': `M11 6V42H37V6ZM18 14h.2M26 12h.2M31 22h.2M20 28h.2M28 34h.2M16 36h.2`,
  hollow: `${window}M20 6V42M28 6V42`,
}

function coatMarks(at: ReturnType<typeof frame>, l: number, coat: string): string {
  const reach = coat === 'whiskered' ? 0.7 : coat === 'woolly' || coat === 'silky' ? 0.14 : 0.07
  return [0.25, 0.45, 0.65, 0.85]
    .flatMap((u) =>
      [-1, 1].map((s) => {
        const w = l * 0.26 * (1.1 - u * 0.8)
        return `M${at(l * u, s * w)}L${at(l * (u + reach), s * (w + l * reach * 0.8))}`
      }),
    )
    .join('')
}

/** Moves and scales a path that was drawn in a box of 48. */
export function place(d: string, x: number, y: number, k: number): string {
  return d.replace(/([MLQCAHVTZahlmqvcz])([^MLQCAHVTZahlmqvcz]*)/g, (_, op: string, rest: string) => {
    const n = (rest.match(/-?\d*\.?\d+/g) ?? []).map(Number)
    if (op === 'H') return `H${n.map((v) => (v * k + x).toFixed(2)).join(' ')}`
    if (op === 'V') return `V${n.map((v) => (v * k + y).toFixed(2)).join(' ')}`
    if (op === 'a') return `a${n.map((v, i) => ([0, 1, 5, 6].includes(i % 7) ? (v * k).toFixed(2) : v)).join(' ')}`
    if (op === op.toLowerCase()) return op + n.map((v) => (v * k).toFixed(2)).join(' ')
    return op + n.map((v, i) => (v * k + (i % 2 ? y : x)).toFixed(2)).join(' ')
  })
}
