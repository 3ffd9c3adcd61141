import L from 'leaflet'

/** What Leaflet's canvas renderer keeps to itself and a mark of our own needs. */
interface Canvas {
  _ctx: CanvasRenderingContext2D
  _drawing: boolean
  _fillStroke(ctx: CanvasRenderingContext2D, layer: unknown): void
}
interface Mark extends L.CircleMarker {
  _renderer: Canvas
  _point: L.Point
  _radius: number
  _empty(): boolean
  status: string
}

/** Which part of its disc is filled, in half turns from the right, as its sign has it. */
const filled: Record<string, [number, number]> = { named: [0, 2], ready: [0.5, 1.5], probable: [-0.5, 0] }

/**
 * A tree on the map: a full disc when named, half full when ready, a quarter when
 * probable, a diamond in doubt, a ring when not yet, a point when not scored. The form says it, not
 * the colour alone.
 */
const TreeMark = L.CircleMarker.extend({
  _updatePath(this: Mark) {
    const r = this._renderer
    if (!r._drawing || this._empty()) return
    const { _ctx: ctx } = r
    const { x, y } = this._point
    const size = this.status === 'unscored' ? 2 : this._radius
    ctx.beginPath()
    if (this.status === 'doubtful') diamond(ctx, x, y, size * 1.25)
    else ctx.arc(x, y, size, 0, 2 * Math.PI)
    r._fillStroke(ctx, this)
    const full = filled[this.status]
    if (full) {
      ctx.beginPath()
      ctx.moveTo(x, y)
      ctx.arc(x, y, size, full[0] * Math.PI, full[1] * Math.PI)
      ctx.fillStyle = this.options.color ?? ''
      ctx.fill()
    }
  },
})

function diamond(ctx: CanvasRenderingContext2D, x: number, y: number, r: number) {
  ctx.moveTo(x, y - r)
  ctx.lineTo(x + r, y)
  ctx.lineTo(x, y + r)
  ctx.lineTo(x - r, y)
  ctx.closePath()
}

export function treeMark(at: L.LatLngExpression, status: string, options: L.CircleMarkerOptions): L.CircleMarker {
  const fill = status === 'doubtful' ? options.color : options.fillColor
  const Maker = TreeMark as unknown as new (at: L.LatLngExpression, options: L.CircleMarkerOptions) => Mark
  const mark = new Maker(at, { ...options, fillColor: fill })
  mark.status = status
  return mark
}
