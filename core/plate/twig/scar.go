package twig

import (
	"math"

	"palethicket/core/plate"
)

// shapes are leaf scars in a box from -1 to 1, y down, the bud above; closed curves.
var shapes = map[string][][2]float64{
	"crescent":   {{-1, -0.42}, {-0.5, -0.02}, {0, 0.1}, {0.5, -0.02}, {1, -0.42}, {0.72, 0.22}, {0, 0.52}, {-0.72, 0.22}},
	"narrow-v":   {{-0.95, -0.8}, {-0.45, 0}, {0, 0.36}, {0.45, 0}, {0.95, -0.8}, {0.68, 0.12}, {0, 0.78}, {-0.68, 0.12}},
	"half-round": {{-0.92, -0.38}, {-0.4, -0.34}, {0.4, -0.34}, {0.92, -0.38}, {0.78, 0.22}, {0, 0.66}, {-0.78, 0.22}},
	"shield": {
		{-0.9, -0.66},
		{-0.4, -0.6},
		{0.4, -0.6},
		{0.9, -0.66},
		{0.78, -0.05},
		{0.4, 0.6},
		{0, 0.98},
		{-0.4, 0.6},
		{-0.78, -0.05},
	},
	"heart": {{0, -0.42}, {-0.5, -0.82}, {-0.95, -0.42}, {-0.72, 0.2}, {0, 1}, {0.72, 0.2}, {0.95, -0.42}, {0.5, -0.82}},
	"three-lobed": {
		{0, -0.5},
		{-0.55, -0.88},
		{-1, -0.5},
		{-0.62, -0.05},
		{-0.4, 0.55},
		{0, 0.95},
		{0.4, 0.55},
		{0.62, -0.05},
		{1, -0.5},
		{0.55, -0.88},
	},
	"round": {{0, -0.78}, {-0.62, -0.5}, {-0.82, 0.1}, {-0.5, 0.68}, {0, 0.84}, {0.5, 0.68}, {0.82, 0.1}, {0.62, -0.5}},
	"horseshoe": {
		{-0.55, -1},
		{-0.52, -0.2},
		{0, 0.3},
		{0.52, -0.2},
		{0.55, -1},
		{0.98, -0.9},
		{0.9, 0.1},
		{0, 0.9},
		{-0.9, 0.1},
		{-0.98, -0.9},
	},
	"notch-round-bud": {
		{-0.18, -0.9},
		{-0.55, -0.5},
		{-0.5, 0.1},
		{0, 0.36},
		{0.5, 0.1},
		{0.55, -0.5},
		{0.18, -0.9},
		{0.7, -0.86},
		{0.98, -0.1},
		{0.55, 0.7},
		{0, 0.86},
		{-0.55, 0.7},
		{-0.98, -0.1},
		{-0.7, -0.86},
	},
}

// wraps says of which shapes the bud sits within the scar.
var wraps = map[string]bool{"horseshoe": true, "notch-round-bud": true}

// Traces gives where the bundle traces of a scar lie in its box.
func Traces(bundles, shape string) [][2]float64 {
	low := func(x float64) float64 { // the middle of a curved scar
		switch shape {
		case "crescent":
			return 0.34 - 0.6*x*x
		case "narrow-v":
			return 0.55 - 1.1*math.Abs(x)
		case "horseshoe", "notch-round-bud":
			return 0.58 - 0.9*x*x
		}
		return 0.22 - 0.5*x*x
	}
	line := func(n int, wide float64) (out [][2]float64) {
		for i := range n {
			x := -wide + 2*wide*float64(i)/float64(max(1, n-1))
			out = append(out, [2]float64{x, low(x)})
		}
		return out
	}
	ring := func(n int, cx, cy, r float64) (out [][2]float64) {
		for i := range n {
			s, c := math.Sincos(2 * math.Pi * float64(i) / float64(n))
			out = append(out, [2]float64{cx + r*c, cy + r*s})
		}
		return out
	}
	switch bundles {
	case "one":
		return [][2]float64{{0, low(0)}}
	case "two":
		return line(2, 0.3)
	case "three":
		return line(3, 0.58)
	case "five":
		return line(5, 0.66)
	case "seven-or-so":
		return line(7, 0.7)
	case "arc-of-many":
		return line(13, 0.72)
	case "three-groups":
		out := ring(4, -0.5, low(0.5)-0.05, 0.11)
		return append(append(out, ring(4, 0.5, low(0.5)-0.05, 0.11)...), ring(4, 0, low(0)+0.12, 0.11)...)
	case "ring-of-many":
		return ring(12, 0, 0.02, 0.42)
	case "scattered":
		return [][2]float64{
			{-0.5, -0.3},
			{-0.2, -0.42},
			{0.18, -0.36},
			{0.5, -0.28},
			{-0.42, 0.05},
			{-0.05, -0.06},
			{0.34, 0.06},
			{-0.2, 0.3},
			{0.14, 0.34},
			{0.02, 0.58},
		}
	}
	return nil
}

// faceScar is a leaf scar seen from before: its middle, half its width, and how many times
// it is enlarged.
func (w *twig) faceScar(at plate.Frame, half, big float64) {
	shape := w.Shows.State("scar.shape", "half-round")
	put := func(x, y float64) plate.Point { return at.Put(-y*half, x*half) }
	points := []plate.Point{}
	for _, q := range w.topped(shape) {
		points = append(points, put(q[0], q[1]))
	}
	w.c.Group("scar.shape", "scarface")
	w.c.Path(plate.NewPath(2).Curve(points, true), "", "#d8c19a")
	w.c.End()
	w.c.Group("scar.bundles", "traces")
	dots := plate.NewPath(2)
	for _, q := range Traces(w.Shows.State("scar.bundles", ""), shape) {
		dots.Dot(put(q[0], q[1]))
	}
	if !dots.Empty() {
		w.c.Raw(`<path style="stroke-width:%.2f" d="%s"/>`, half*0.15, dots)
	}
	w.c.End()
	if w.Shows.Seen("scar.fringe") {
		w.c.Group("scar.fringe", "hair")
		p := plate.NewPath(2)
		for i := range 15 {
			x := -0.85 + 1.7*float64(i)/14
			y := w.topEdge(shape, x)
			p.Segment(put(x, y), put(x*1.05, y-0.28))
		}
		w.c.Path(p, "", "")
		w.c.End()
	}
}

// topped is a shape with its upper edge as scored.
func (w *twig) topped(shape string) [][2]float64 {
	own, ok := shapes[shape]
	if !ok {
		own = shapes["half-round"]
	}
	lift := map[string]float64{"notched": 0.2, "arched": -0.22}[w.Shows.State("scar.top", "")]
	if lift == 0 || shape != "half-round" && shape != "shield" {
		return own
	}
	out := make([][2]float64, len(own))
	copy(out, own)
	out[1][1] += lift
	out[2][1] += lift
	return out
}

func (w *twig) topEdge(shape string, x float64) float64 {
	switch shape {
	case "crescent", "narrow-v", "horseshoe", "notch-round-bud":
		return -0.36 + 0.3*(1-math.Abs(x))
	case "heart", "three-lobed":
		return -0.72
	case "round":
		return -0.78 * math.Sqrt(math.Max(0, 1-x*x))
	}
	return -0.4
}

// sideScar is one in profile: a step that the leaf stood on, its face turned away.
func (w *twig) sideScar(at, side float64) {
	f, h := w.axis(at), w.half(at)
	s := plate.Clamp(0.34*w.d, 0.5, 2.4)
	p := plate.NewPath(2).Move(f.Put(0.15*s, side*h*0.95)).Quad(f.Put(-0.1*s, side*(h+0.55*s)), f.Put(-0.7*s, side*(h+0.5*s))).
		Quad(f.Put(-1.5*s, side*(h+0.2*s)), f.Put(-2.3*s, side*h*0.97))
	w.c.Group("scar.shape", "sidescar")
	w.c.Path(p, "", w.wash)
	face := plate.NewPath(2).Move(f.Put(0.15*s, side*h*0.95)).Quad(f.Put(0.1*s, side*(h+0.6*s)), f.Put(-0.7*s, side*(h+0.5*s)))
	w.c.Path(face, "bold", "")
	w.c.End()
}
