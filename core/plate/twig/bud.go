package twig

import (
	"math"
	"math/rand/v2"

	"palethicket/core/plate"
)

// profile gives half the width of a bud over its length, at u from its base to its tip.
func profile(shape string, u float64) float64 {
	bump := func(wide, peak, sharp float64) float64 {
		var t float64
		if u < peak {
			t = u / peak
			return wide * (0.62 + 0.38*math.Sin(math.Pi/2*t))
		}
		t = (u - peak) / (1 - peak)
		return wide * math.Pow(math.Max(0, 1-t*t), sharp)
	}
	switch shape {
	case "round":
		return bump(0.5, 0.45, 0.5)
	case "cone":
		return bump(0.3, 0.16, 0.95)
	case "spindle":
		return bump(0.082, 0.3, 1.1)
	case "flat-paddle":
		return bump(0.3, 0.55, 0.55)
	case "dome":
		return bump(0.42, 0.2, 0.6)
	case "stalked-club":
		if u < 0.3 {
			return 0.1
		}
		return 0.1 + (bump(0.24, 0.62, 0.55)-0.1)*plate.Smooth(0.28, 0.44, u)
	case "sunken":
		return bump(0.7, 0.2, 0.5)
	}
	return bump(0.33, 0.3, 0.85) // egg
}

// budDrawing is one bud: length, and what it shows. big is how many times it is enlarged.
type budDrawing struct {
	*twig
	f     plate.Frame
	l     float64
	shape string
	big   float64
	rng   *rand.Rand
}

func (b *budDrawing) put(u, v float64) plate.Point {
	return b.f.Put(u*b.l, v*b.l*profile(b.shape, plate.Clamp(u, 0, 1)))
}

func (w *twig) drawBud(f plate.Frame, l float64, big float64) {
	w.shapedBud(f, l, big, w.Shows.State("bud.shape", "egg"))
}

func (w *twig) shapedBud(f plate.Frame, l float64, big float64, shape string) {
	b := &budDrawing{w, f, l, shape, big, w.Rand("bud")}
	b.body()
	switch w.Shows.State("bud.scales", "few-overlapping") {
	case "naked":
		b.naked()
	case "one-cap":
		b.cap()
	case "two-edge-to-edge":
		b.valves()
	case "few-overlapping":
		b.scales(plate.Clamp(w.Shows.Value("bud.scale-count", 5), 3, 8))
	default:
		b.scales(plate.Clamp(w.Shows.Value("bud.scale-count", 12), 6, 26))
	}
	b.shadow()
	b.coat()
}

func (b *budDrawing) edge(side float64) []plate.Point {
	steps := 6
	if b.l > 5 {
		steps = 9
	}
	out := []plate.Point{}
	for i := range steps + 1 {
		out = append(out, b.put(float64(i)/float64(steps), side))
	}
	return out
}

func (b *budDrawing) fill() string {
	return plate.Wash(b.Shows.State("bud.color", ""))
}

func (b *budDrawing) body() {
	left, right := b.edge(-1), b.edge(1)
	for i := len(right) - 2; i >= 0; i-- {
		left = append(left, right[i])
	}
	of := "bud.shape"
	b.c.Group(of, "budbody")
	b.c.Path(plate.NewPath(2).Poly(left, true), "", b.fill())
	b.c.End()
}

// scales overlap: those nearer the base lie over those nearer the tip. Each is drawn from
// the one before it at the other side.
func (b *budDrawing) scales(n float64) {
	b.c.Group("bud.scales", "scales thin")
	if b.big == 1 { // finer than a pen can draw
		n = math.Min(n, plate.Clamp(b.l*1.2, 3, 8))
	}
	rows := int(n)
	inner := "none"
	if b.Shows.State("bud.color", "") == "two-tone" {
		inner = plate.Wash("green")
	}
	reach := 1.75 / (n + 0.75) // how much of the bud one scale covers
	for i := rows - 1; i >= 0; i-- {
		u0 := (1 - reach) * float64(i) / math.Max(1, float64(rows-1))
		if rows == 1 {
			u0 = 0
		}
		u1 := math.Min(0.985, u0+reach*plate.Between(b.rng, 0.92, 1.08))
		side := []float64{-0.42, 0.42, 0}[i%3]
		if rows <= 4 {
			side = []float64{-0.3, 0.34}[i%2]
		}
		fill := b.fill()
		if i > rows/2 && inner != "none" {
			fill = inner
		}
		b.scale(u0, u1, side, fill)
	}
	b.c.End()
}

// scale is one, from its base u0 to its tip u1; its middle stands at v.
func (b *budDrawing) scale(u0, u1, v float64, fill string) {
	lo, hi := math.Max(-1, v-0.85), math.Min(1, v+0.85)
	rise := u1 - u0
	tip := b.put(u1, v)
	left, right := b.put(u0, lo), b.put(u0, hi)
	p := plate.NewPath(2).Move(left).Cubic(b.put(u0+0.5*rise, lo), b.put(u1-0.08*rise, v-0.5*(v-lo)), tip).
		Cubic(b.put(u1-0.08*rise, v+0.5*(hi-v)), b.put(u0+0.5*rise, hi), right)
	if b.Shows.Seen("bud.keeled") {
		p.Move(tip).Line(b.put(u0+0.1*rise, v*0.9))
	}
	b.c.Path(p, "", fill)
	if b.Shows.State("bud.coat", "") == "fringed" && b.big > 1 {
		b.fringe(u0, u1, v, lo, hi)
	}
}

// fringe is hairs along the edge of a scale.
func (b *budDrawing) fringe(u0, u1, v, lo, hi float64) {
	p := plate.NewPath(2)
	foot := b.put(u0, v*0.5)
	for k := 1; k < 8; k++ {
		t := float64(k) / 8
		rise := math.Pow(1-math.Pow(math.Abs(2*t-1), 2.1), 0.62)
		q := b.put(u0+(u1-u0)*rise, lo+(hi-lo)*t)
		d := q.Sub(foot)
		p.Segment(q, q.Add(d.Times(0.05*b.l/math.Max(d.Length(), 0.1))))
	}
	b.c.Path(p, "hair", "")
}

// valves are two scales edge to edge.
func (b *budDrawing) valves() {
	b.c.Group("bud.scales", "scales thin")
	p := plate.NewPath(2)
	points := []plate.Point{}
	for i := range 8 {
		u := float64(i) / 7
		points = append(points, b.put(u, 0.16*math.Sin(math.Pi*u)-0.04))
	}
	p.Curve(points, false)
	b.c.Path(p, "bold", "")
	b.c.End()
}

// cap is one scale over all of the bud.
func (b *budDrawing) cap() {
	b.c.Group("bud.scales", "scales thin")
	p := plate.NewPath(2)
	p.Move(b.put(0.04, -1)).Quad(b.put(0.1, 0), b.put(0.04, 1))
	b.c.Path(p, "", "")
	b.c.End()
}

// naked is a leaf, folded, with its veins.
func (b *budDrawing) naked() {
	b.c.Group("bud.scales", "scales thin")
	p := plate.NewPath(2)
	p.Move(b.put(0.02, 0)).Line(b.put(0.97, 0.02))
	step := 0.13
	if b.big == 1 {
		step = 0.21
	}
	for u := 0.1; u < 0.85; u += step {
		p.Move(b.put(u, 0.02)).Quad(b.put(u+0.1, 0.5), b.put(u+0.15, 0.92))
		p.Move(b.put(u, -0.02)).Quad(b.put(u+0.1, -0.5), b.put(u+0.15, -0.92))
	}
	b.c.Path(p, "", "")
	b.c.End()
}

func (b *budDrawing) shadow() {
	right := b.edge(1)
	p := append([]plate.Point{}, right...)
	for i := 5; i >= 1; i-- {
		p = append(p, b.put(float64(i)/6, 0.42))
	}
	b.c.Path(plate.NewPath(2).Poly(p, true), "shade", "")
	b.c.Path(plate.NewPath(2).Poly(right, false), "bold", "")
}

// coat is what covers the scales.
func (b *budDrawing) coat() {
	coat := b.Shows.State("bud.coat", "bare")
	b.c.Group("bud.coat", "coat")
	switch coat {
	case "sticky": // it shines
		p := plate.NewPath(2)
		p.Move(b.put(0.3, -0.5)).Quad(b.put(0.5, -0.55), b.put(0.66, -0.4)).Move(b.put(0.2, 0.1)).Quad(b.put(0.3, 0.06), b.put(0.4, 0.1))
		b.c.Path(p, "gleam", "")
		b.c.Path(plate.NewPath(2).Circle(b.put(0.12, 1.08), 0.045*b.l), "thin", "#d9a441")
	case "downy", "silky", "woolly":
		b.hairs(coat)
	case "mealy":
		p := plate.NewPath(2)
		for range int(24 + 10*b.big) {
			q := b.put(plate.Between(b.rng, 0.05, 0.9), plate.Between(b.rng, -0.9, 0.9))
			p.Segment(q, q.Add(plate.Point{X: 0.05 * b.big}))
		}
		b.c.Path(p, "thin", "")
	case "whiskered":
		p := plate.NewPath(2)
		for range 9 {
			u, v := plate.Between(b.rng, 0.1, 0.6), plate.Between(b.rng, -1, 1)
			q := b.put(u, v)
			p.Move(q).Quad(b.f.Put((u+0.35)*b.l, v*b.l*0.35), b.f.Put((u+0.75)*b.l, v*b.l*0.5))
		}
		b.c.Path(p, "hair", "")
	}
	b.c.End()
}

func (b *budDrawing) hairs(coat string) {
	n, long, across := 26, 0.1, 0.25
	switch coat {
	case "silky":
		n, long, across = 30, 0.24, 0.06
	case "woolly":
		n, long, across = 36, 0.15, 0.5
	}
	if b.big == 1 { // finer than a pen can draw
		n = int(plate.Clamp(float64(n)*b.l/16, 5, float64(n)))
	}
	p := plate.NewPath(2)
	for i := range n {
		u, v := plate.Between(b.rng, 0.03, 0.93), plate.Between(b.rng, -1, 1)
		if i%3 == 0 {
			v = math.Copysign(1, v) // at the rim hairs show best
		}
		q := b.put(u, v)
		d := b.f.Put(u*b.l+long*b.l, 0).Sub(b.f.Put(u*b.l, 0))
		out := b.f.Put(0, v*across*long*b.l*3).Sub(b.f.Put(0, 0))
		p.Segment(q, q.Add(d).Add(out))
	}
	class := "hair"
	if coat != "downy" && b.big > 1 {
		b.c.Path(p, "gleam thin", "")
	}
	b.c.Path(p, class, "")
}
