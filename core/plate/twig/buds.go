package twig

import (
	"math"

	"palethicket/core/plate"
)

// Stance gives the angle between a side bud and the twig, in degrees.
func Stance(state string) float64 {
	switch state {
	case "pressed":
		return 9
	case "spreading":
		return 46
	case "tipped-aside", "above-a-gap":
		return 28
	}
	return 24
}

// sideLength is how long side buds are.
func (w *twig) sideLength() float64 {
	switch w.Shows.State("bud.stance", "") {
	case "hidden":
		return min(1.2, 0.3*w.bud)
	}
	if w.Shows.State("bud.tip", "") == "side-bud-at-end" || w.Shows.State("bud.shape", "") == "spindle" {
		return 0.92 * w.bud
	}
	return 0.66 * w.bud
}

// budsBehind are those that stand on the far side: only what looks past the twig shows.
func (w *twig) budsBehind() {
	for _, n := range w.nodes {
		for _, a := range n.around {
			if s := math.Sin(2 * math.Pi * a); s < -0.35 {
				w.oneBud(n, a)
			}
		}
	}
}

// budsBefore are those in profile and on the near side, with their scars.
func (w *twig) budsBefore() {
	for i, n := range w.nodes {
		for _, a := range n.around {
			sin := math.Sin(2 * math.Pi * a)
			if sin < -0.35 {
				continue
			}
			if sin > 0.55 {
				w.nearScar(n, a)
			} else {
				w.sideScar(n.at+0.1*w.d, side(a))
			}
			w.oneBud(n, a)
			w.extraBuds(n, a)
		}
		w.stipules(n)
		if w.Shows.Seen("scar.pairs-meet") && len(n.around) == 2 {
			w.meeting(n)
		}
		if i == 1 && w.Shows.Seen("fruit.leaves-held") {
			w.heldLeaf(n)
		}
	}
}

func side(a float64) float64 {
	if math.Cos(2*math.Pi*a) < 0 {
		return -1
	}
	return 1
}

func (w *twig) oneBud(n node, a float64) {
	sin, cos := math.Sincos(2 * math.Pi * a)
	stance := w.Shows.State("bud.stance", "")
	l := w.sideLength()
	at := n.at - 0.12*w.d
	if stance == "above-a-gap" {
		at -= 0.5*w.d + 1
	}
	if wraps[w.Shows.State("scar.shape", "")] {
		at += 0.2 * w.d
	}
	angle := plate.Radians(Stance(stance) * plate.Between(w.rng, 0.88, 1.12))
	f := w.axis(at)
	foot := f.Put(0, w.half(at)*cos*0.96)
	lean := angle * cos
	if stance == "tipped-aside" && sin > 0.5 {
		lean += plate.Radians(16)
	}
	if sin > 0.55 || sin < -0.35 { // it is seen along its length, as it points to us or away
		l *= 0.6 + 0.4*math.Cos(angle)
	}
	w.drawBud(plate.Frame{At: foot, Angle: f.Angle + lean}, l, 1)
}

func (w *twig) nearScar(n node, a float64) {
	f := w.axis(n.at)
	half := w.scarHalf()
	f.At = f.Put(-0.75*half, w.half(n.at)*math.Cos(2*math.Pi*a)*0.9)
	if wraps[w.Shows.State("scar.shape", "")] {
		f.At = f.Put(0.4*half, 0)
	}
	w.faceScar(f, half, 1)
}

// scarHalf is half the width of a leaf scar.
func (w *twig) scarHalf() float64 {
	return plate.Clamp(0.36*w.d, 0.5, 3.8)
}

func (w *twig) extraBuds(n node, a float64) {
	extra := w.Shows.State("bud.extras", "none")
	if extra == "none" {
		return
	}
	w.c.Group("bud.extras", "")
	defer w.c.End()
	cos := math.Cos(2 * math.Pi * a)
	l := w.sideLength()
	switch extra {
	case "stacked":
		at := n.at - 0.12*w.d - 0.9*l - 0.8
		f := w.axis(at)
		w.drawBud(
			plate.Frame{At: f.Put(0, w.half(at)*cos*0.96), Angle: f.Angle + plate.Radians(Stance(w.Shows.State("bud.stance", "")))*cos},
			1.15*l,
			1,
		)
	case "side-by-side":
		f := w.axis(n.at - 0.2*w.d)
		for _, k := range []float64{-1, 1} {
			w.drawBud(plate.Frame{At: f.Put(0.2, w.half(n.at)*cos*0.8+k*0.3*l), Angle: f.Angle + 0.25*cos + k*0.3}, 0.9*l, 1)
		}
	case "round-flower-buds":
		if w.stalkedFlowers() {
			return // they stand at the end: see tip
		}
		at := n.at - 0.3*w.d - 0.4*l
		f := w.axis(at)
		w.shapedBud(plate.Frame{At: f.Put(0, (w.half(at)+0.5)*side(a)), Angle: f.Angle + 0.7*side(a)}, 0.8*l+0.8, 1, "round")
	}
}

// stipules leave slits beside the scars, or a ring round the twig.
func (w *twig) stipules(n node) {
	f, h := w.axis(n.at-0.05*w.d), w.half(n.at)
	p := plate.NewPath(2)
	switch w.Shows.State("twig.stipule-marks", "none") {
	case "full-ring":
		p.Move(f.Put(0, -h*1.02)).Quad(f.Put(-0.42*h, 0), f.Put(0, h*1.02))
	case "slits":
		for _, a := range n.around {
			x := h * math.Cos(2*math.Pi*a) * 0.62
			p.Segment(f.Put(0.1*w.d, x-0.36*h), f.Put(-0.08*w.d, x-0.24*h)).Segment(f.Put(0.1*w.d, x+0.36*h), f.Put(-0.08*w.d, x+0.24*h))
		}
	default:
		return
	}
	w.c.Group("twig.stipule-marks", "")
	w.c.Path(p, "", "")
	w.c.End()
}

// meeting is the line that joins the scars of a pair.
func (w *twig) meeting(n node) {
	f, h := w.axis(n.at+0.05*w.d), w.half(n.at)
	w.c.Group("scar.pairs-meet", "")
	w.c.Path(plate.NewPath(2).Move(f.Put(-0.1, -h)).Quad(f.Put(-0.62*h, 0), f.Put(-0.1, h)), "", "")
	w.c.End()
}

// tip is the end of the twig.
func (w *twig) tip() {
	f := w.axis(0)
	if w.ever {
		w.drawBud(f, min(w.bud, 6), 1)
		return
	}
	side := func(off, angle, l float64) {
		w.drawBud(plate.Frame{At: f.Put(-0.15, off), Angle: f.Angle + plate.Radians(angle)}, l, 1)
	}
	r := w.half(0)
	w.c.Group("bud.tip", "tip")
	switch w.Shows.State("bud.tip", "true-end-bud") {
	case "pair-at-end":
		side(-0.55*r, -16, w.bud)
		side(0.55*r, 16, w.bud)
		w.c.Path(plate.NewPath(2).Segment(f.Put(0, 0), f.Put(0.8, 0)), "bold", "")
	case "side-bud-at-end":
		side(0.25*r, 20, w.bud)
		stub := plate.NewPath(2).
			Move(f.Put(-0.4, -0.95*r)).
			Quad(f.Put(0.8, -0.8*r), f.Put(0.9, -0.5*r)).
			Quad(f.Put(0.7, -0.2*r), f.Put(0, -0.05*r))
		w.c.Path(stub, "", w.wash)
	case "cluster-at-end":
		for _, a := range []struct{ off, angle, l float64 }{{-0.7, -42, 0.72}, {0.7, 42, 0.72}, {-0.4, -20, 0.86}, {0.4, 22, 0.84}, {0, 0, 1}} {
			side(a.off*r, a.angle, a.l*w.bud)
		}
	default:
		if w.Shows.Seen("bud.last-pair-close") {
			side(-0.8*r, -19, 0.55*w.bud)
			side(0.8*r, 19, 0.55*w.bud)
		}
		if w.stalkedFlowers() {
			w.flowerBud(f)
			break
		}
		side(0, 0, w.bud)
	}
	w.c.End()
	w.catkins(f)
}

// stalkedFlowers says whether flower buds stand stalked at the end, as where leaf buds of a
// pair have two scales edge to edge; else they sit beside the leaf buds.
func (w *twig) stalkedFlowers() bool {
	return w.Shows.State("bud.extras", "") == "round-flower-buds" && w.Shows.State("twig.arrangement", "") == "opposite" &&
		w.Shows.State("bud.scales", "") == "two-edge-to-edge"
}

// flowerBud is one on a stalk of its own at the end, flattened as a turnip is.
func (w *twig) flowerBud(f plate.Frame) {
	stalk, r := plate.Clamp(1.1*w.bud, 3, 7), plate.Clamp(0.5*w.bud, 2, 3.6)
	h := w.half(0) * 0.7
	w.c.Path(plate.NewPath(2).Poly([]plate.Point{f.Put(-1, -h), f.Put(stalk, -h*0.8), f.Put(stalk, h*0.8), f.Put(-1, h)}, true), "", w.wash)
	at := func(u, v float64) plate.Point { return f.Put(stalk+u*r, v*r) }
	w.c.Path(plate.NewPath(2).Curve([]plate.Point{at(-0.1, -0.4), at(0.35, -1.05), at(0.95, -0.8), at(1.3, -0.15), at(1.65, 0), at(1.3, 0.15),
		at(0.95, 0.8), at(0.35, 1.05), at(-0.1, 0.4)}, true), "", plate.Wash(w.Shows.State("bud.color", "grey")))
	w.c.Path(
		plate.NewPath(2).Move(at(1.6, 0)).Quad(at(0.8, 0.35), at(-0.1, 0.2)).Move(at(1.6, 0)).Quad(at(0.8, -0.75), at(0, -0.7)),
		"thin",
		"",
	)
	w.c.Path(
		plate.NewPath(2).Curve([]plate.Point{at(-0.1, 0.4), at(0.35, 1.05), at(0.95, 0.8), at(1.3, 0.15), at(0.8, 0.5), at(0.2, 0.5)}, true),
		"shade",
		"",
	)
	for _, s := range []float64{-1, 1} { // the last pair of leaf buds, under it
		w.drawBud(plate.Frame{At: f.Put(-0.3, s*h), Angle: f.Angle + s*0.5}, 0.5*w.bud, 1)
	}
}
