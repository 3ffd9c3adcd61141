// Package twig draws last year's growth of a winter twig, true to scale: its buds, leaf
// scars, surface and pith, with the end bud and a scar as through a lens.
package twig

import (
	"math"
	"math/rand/v2"

	"palethicket/core/plate"
)

// Width and Height are those of a drawing, in mm of the twig.
const Width, Height = 80.0, 150.0

// Where the twig stands, and the lenses.
const (
	axisX    = 25.0
	cutY     = 141.0
	lensX    = 62.0
	budLensY = 30.0
	cutLensY = 104.0
	lensR    = 15.5
)

const styles = `path{stroke-width:.26}.thin path,.thin{stroke-width:.16}.bold{stroke-width:.42}` +
	`.hair path,.hair{stroke-width:.11;opacity:.85}` +
	`.shade{stroke:none;fill:#1a120c;opacity:.24}.gleam{stroke:#fff;opacity:.7}.dot{fill:var(--ink);stroke:none}` +
	`.lens{fill:var(--ground);stroke:var(--soft);stroke-width:.3}.needle path{stroke:#3d6b3a;stroke-width:.5}` +
	`.dark .needle path{stroke:#8fbf86}.paper .needle path{stroke:#000}.leaf{fill:#b0814f}.green{fill:#5d8a4e}` +
	`.paper .leaf,.paper .shade{fill:#fff;opacity:1}` +
	`.marked path{stroke-width:.3}.hollow{stroke-width:.8;opacity:.4}`

// Draw gives the drawing of a tree's twig as SVG.
func Draw(t *plate.Tree, theme string) []byte {
	w := newTwig(t)
	w.c = plate.NewCanvas(t, theme, 0, 0, Width, Height, styles, Describe(t))
	w.draw()
	return w.c.Done()
}

// Part gives a part of the drawing alone: one of the lenses, Bud, Scar or Pith, or the
// Stem without them.
func Part(t *plate.Tree, theme, part string) []byte {
	w := newTwig(t)
	w.c = plate.NewCanvas(t, theme, 0, 0, Width, Height, styles, Describe(t))
	switch part {
	case Bud:
		w.budLens()
	case Scar:
		w.scarLens()
	case Pith:
		w.pithLens()
	default:
		w.growth()
	}
	return w.c.Done()
}

// The parts of a drawing.
const (
	Bud  = "bud"
	Scar = "scar"
	Pith = "pith"
	Stem = "stem"
)

// twig is one that is drawn.
type twig struct {
	*plate.Tree
	c      *plate.Canvas
	rng    *rand.Rand
	d      float64 // thickness, mm
	length float64 // of last year's growth
	tipY   float64
	bud    float64 // length of the end bud
	zig    float64 // how far it swings at each node
	bend   float64
	lean   float64
	nodes  []node
	wash   string
	ever   bool // it has needles or scales instead of buds and scars
}

// node is one place of buds: how far below the tip, and the way round at which each stands
// (0 to the right, a quarter to the front).
type node struct {
	at     float64
	around []float64
}

func newTwig(t *plate.Tree) *twig {
	w := &twig{Tree: t, rng: t.Rand("twig")}
	w.d = plate.Clamp(t.Shows.Value("twig.diameter", 3), 0.7, 13)
	w.bud = plate.Clamp(t.Shows.Value("bud.length", 5), 0.8, 32)
	if s := t.Shows.State("bud.stance", ""); s == "hidden" || t.Shows.State("bud.shape", "") == "sunken" {
		w.bud = min(w.bud, 2)
	}
	kept := t.Shows.State("needle.kept", "bare")
	w.ever = kept == "needles" || kept == "scale-leaves"
	inter := t.Build.Internode * plate.Between(w.rng, 0.92, 1.08)
	w.length = plate.Clamp(4.6*inter, 68, cutY-24-w.bud)
	w.tipY = cutY - 13 - w.length
	w.tipY = max(w.tipY, w.bud+6)
	w.length = cutY - 13 - w.tipY
	if t.Shows.Seen("twig.zigzag") {
		w.zig = max(1.1, 0.42*w.d)
	}
	w.bend, w.lean = plate.Between(w.rng, -3, 3), plate.Between(w.rng, -0.02, 0.03)
	w.wash = plate.Wash(t.Shows.State("twig.color", ""))
	w.place(inter)
	return w
}

// place puts the nodes, closer together towards the tip.
func (w *twig) place(inter float64) {
	arrangement := w.Shows.State("twig.arrangement", "alternate")
	gap := 0.34 * inter
	if w.Shows.State("bud.tip", "") == "cluster-at-end" {
		gap = 0.3 * inter
	}
	at := gap
	turn := w.rng.Float64()
	for i := 0; at < w.length-3; i++ {
		w.nodes = append(w.nodes, node{at, w.around(arrangement, i, turn)})
		if arrangement == "subopposite" {
			n := &w.nodes[len(w.nodes)-1]
			second := node{at + 0.16*inter, n.around[1:]}
			n.around = n.around[:1]
			w.nodes = append(w.nodes, second)
		}
		gap = min(inter, gap*1.75)
		at += gap * plate.Between(w.rng, 0.9, 1.1)
	}
}

func (w *twig) around(arrangement string, i int, turn float64) []float64 {
	switch arrangement {
	case "opposite", "subopposite":
		if i%2 == 0 {
			return []float64{0, 0.5}
		}
		return []float64{0.25, 0.75} // one faces us, one is behind
	case "whorled":
		off := float64(i%2) / 6
		return []float64{off, off + 1.0/3, off + 2.0/3}
	}
	switch w.Build.Ranks {
	case 2:
		return []float64{float64(i%2)*0.5 + 0.04}
	case 3:
		return []float64{math.Mod(turn+float64(i)/3, 1)}
	}
	return []float64{math.Mod(turn+0.4*float64(i), 1)}
}

// axis gives the middle of the twig so far below its tip, and the way it grows there.
func (w *twig) axis(at float64) plate.Frame {
	x := func(at float64) float64 {
		u := at / w.length
		return axisX + w.bend*(u*u-u)*2 + w.lean*(w.length-at) + w.swing(at)
	}
	return plate.Frame{At: plate.Point{X: x(at), Y: w.tipY + at}, Angle: math.Atan2(x(at-0.5)-x(at+0.5), 1)}
}

// swing is how far the twig stands to one side: to the other at each node.
func (w *twig) swing(at float64) float64 {
	if w.zig == 0 || len(w.nodes) < 2 {
		return 0
	}
	side := -1.0
	from, to := 0.0, w.nodes[0].at
	for i, n := range w.nodes {
		if at < n.at {
			to = n.at
			break
		}
		from, side = n.at, -side
		to = w.length + 13
		if i+1 < len(w.nodes) {
			to = w.nodes[i+1].at
		}
	}
	return w.zig * side * (2*(at-from)/max(to-from, 1) - 1)
}

// half is half the thickness so far below the tip: it swells at the nodes.
func (w *twig) half(at float64) float64 {
	r := w.d / 2 * (0.78 + 0.26*plate.Clamp(at/w.length, 0, 1))
	for _, n := range w.nodes {
		d := (at - n.at - 0.25*w.d) / (0.55*w.d + 0.5)
		r += 0.07 * w.d * math.Max(0, 1-d*d)
	}
	if at > w.length { // the year before
		r += 0.06 * w.d
	}
	return r
}

func (w *twig) draw() {
	w.growth()
	w.lenses()
	w.scale()
}

func (w *twig) growth() {
	if !w.ever {
		w.budsBehind()
	}
	w.stem()
	w.surface()
	w.cut()
	if w.ever {
		w.foliage()
	} else {
		w.budsBefore()
		w.arms()
		w.spurs()
		w.hanging()
	}
	if w.Shows.State("needle.kept", "") == "broad-evergreen" {
		w.greenLeaves()
	}
	w.tip()
}

func (w *twig) outline(from, to float64) (left, right []plate.Point) {
	for at := from; ; at += 1.1 {
		at = min(at, to)
		f, h := w.axis(at), w.half(at)
		left, right = append(left, f.Put(0, -h)), append(right, f.Put(0, h))
		if at == to {
			return left, right
		}
	}
}

func (w *twig) stem() {
	end := cutY - w.tipY - 1
	left, right := w.outline(0, end)
	body := append([]plate.Point{}, left...)
	for i := len(right) - 1; i >= 0; i-- {
		body = append(body, right[i])
	}
	of := "twig.color"
	if !w.Shows.Knows(of) {
		of = "twig.diameter"
	}
	w.c.Group(of, "stem")
	w.c.Path(plate.NewPath(2).Poly(body, true), "thin", w.wash)
	w.c.End()
	w.c.Group("", "")
	shade := []plate.Point{}
	for i := range right {
		shade = append(shade, right[i].To(left[i], 0.36))
	}
	for i := len(right) - 1; i >= 0; i-- {
		shade = append(shade, right[i])
	}
	w.c.Path(plate.NewPath(2).Poly(shade, true), "shade", "")
	w.c.Path(plate.NewPath(2).Poly(right, false), "bold", "")
	w.c.Path(plate.NewPath(2).Poly(left, false), "thin", "")
	w.c.End()
	w.rings()
}

// rings are the scars of last winter's bud scales: the end of the year's growth.
func (w *twig) rings() {
	p := plate.NewPath(2)
	n := int(plate.Clamp(w.Shows.Value("bud.scale-count", 6), 3, 9))
	for i := range n {
		at := w.length - 1.2 + 0.42*float64(i) + plate.Between(w.rng, -0.08, 0.08)
		f, h := w.axis(at), w.half(at)+0.12
		p.Move(f.Put(0, -h)).Quad(f.Put(-0.3*h, 0), f.Put(0, h))
	}
	w.c.Group("", "thin")
	w.c.Path(p, "", "")
	w.c.End()
}

// cut is the slanted face at the lower end, and a window cut lengthwise to the pith.
func (w *twig) cut() {
	at := cutY - w.tipY - 1
	f, h := w.axis(at), w.half(at)
	w.c.Group("twig.pith", "cutface thin")
	w.c.Raw(`<g transform="rotate(14 %.2f %.2f)">`, f.At.X, f.At.Y)
	w.c.Path(plate.NewPath(2).Ellipse(f.At, h*1.03, h*0.52), "", w.wash)
	w.c.Path(plate.NewPath(2).Ellipse(f.At, h*0.86, h*0.42), "", "#ecdfc0")
	pith := w.pithShare()
	color := plate.Wash(w.Shows.State("twig.pith-color", "white"))
	w.c.Path(plate.NewPath(2).Ellipse(f.At, h*pith, h*pith*0.5), "", color)
	if w.Shows.State("twig.pith", "") == "hollow" {
		w.c.Path(plate.NewPath(2).Ellipse(f.At, h*pith*0.75, h*pith*0.36), "dot", "")
	}
	w.c.Raw("</g>")
	w.c.End()
}

func (w *twig) pithShare() float64 {
	switch w.Shows.State("twig.pith", "solid") {
	case "spongy-wide":
		return 0.62
	case "hollow", "chambered":
		return 0.4
	}
	return 0.3
}

// scale is a bar of 10 mm.
func (w *twig) scale() {
	p := plate.NewPath(2).Segment(plate.Point{X: 40, Y: 146}, plate.Point{X: 50, Y: 146}).
		Segment(plate.Point{X: 40, Y: 144.8}, plate.Point{X: 40, Y: 147.2}).Segment(plate.Point{X: 50, Y: 144.8}, plate.Point{X: 50, Y: 147.2})
	w.c.Group("", "scalebar")
	w.c.Path(p, "bold", "")
	w.c.Text(plate.Point{X: 58, Y: 147.3}, 3.6, "10 mm")
	w.c.End()
}
