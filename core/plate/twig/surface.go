package twig

import (
	"math"

	"palethicket/core/plate"
)

// surface is what covers the twig: ribs, wings, lenticels, hair, and its finish.
func (w *twig) surface() {
	w.section()
	w.lenticels()
	w.finish()
	w.hairs()
}

func (w *twig) along(v float64, from, to float64) []plate.Point {
	out := []plate.Point{}
	for at := from; at < to; at += 4 {
		out = append(out, w.axis(at).Put(0, v*w.half(at)))
	}
	return append(out, w.axis(to).Put(0, v*w.half(to)))
}

func (w *twig) section() {
	state := w.Shows.State("twig.section-outline", "round")
	w.c.Group("twig.section-outline", "thin")
	switch state {
	case "angled":
		w.c.Path(plate.NewPath(2).Poly(w.along(-0.25, 1, w.length), false), "", "")
	case "ribbed":
		for _, v := range []float64{-0.6, -0.15, 0.35} {
			w.c.Path(plate.NewPath(2).Poly(w.along(v, 1, w.length), false), "", "")
		}
	case "corky-winged":
		for _, s := range []float64{-1, 1} {
			rim := []plate.Point{}
			for at := 6.0; at < w.length; at += 2.2 {
				rim = append(rim, w.axis(at).Put(0, s*(w.half(at)+plate.Between(w.rng, 0.9, 2.6))))
			}
			p := plate.NewPath(2).Move(w.rimAt(5, s)).Line(rim[0])
			for _, q := range rim[1:] {
				p.Line(q)
			}
			p.Line(w.rimAt(w.length+1, s))
			w.c.Path(p, "", plate.Wash("tan"))
		}
	}
	w.c.End()
}

func (w *twig) rimAt(at, s float64) plate.Point { return w.axis(at).Put(0, s*w.half(at)) }

func (w *twig) lenticels() {
	state := w.Shows.State("twig.lenticels", "")
	if state == "" || state == "faint" {
		return
	}
	n := int(plate.Clamp(w.length*w.d/9, 10, 44))
	p := plate.NewPath(2)
	for range n {
		at := plate.Between(w.rng, 2, w.length-2)
		f, v := w.axis(at), plate.Between(w.rng, -0.85, 0.85)*w.half(at)
		switch state {
		case "long-dashes":
			p.Segment(f.Put(0, v-0.22*w.d), f.Put(0, v+0.22*w.d))
		case "raised-warts":
			p.Ellipse(f.Put(0, v), 0.26, 0.4)
		default:
			p.Segment(f.Put(0.16, v), f.Put(-0.16, v))
		}
	}
	w.c.Group("twig.lenticels", "")
	fill := ""
	if state == "raised-warts" {
		fill = "#e2d4b8"
	}
	w.c.Path(p, "", fill)
	w.c.End()
}

func (w *twig) finish() {
	w.c.Group("twig.finish", "")
	switch w.Shows.State("twig.finish", "") {
	case "shiny":
		for at := 8.0; at+9 < w.length; at += 23 {
			w.c.Path(plate.NewPath(2).Poly(w.along(-0.45, at, at+8), false), "gleam", "")
		}
	case "waxy-bloom":
		p := plate.NewPath(2)
		for range 60 {
			at := plate.Between(w.rng, 2, w.length)
			q := w.axis(at).Put(0, plate.Between(w.rng, -0.9, 0.5)*w.half(at))
			p.Segment(q, q.Add(plate.Point{X: 0.05}))
		}
		w.c.Path(p, "gleam", "")
	case "flaking-film":
		for at := 12.0; at < w.length-6; at += 17 {
			f, h := w.axis(at), w.half(at)
			w.c.Path(
				plate.NewPath(2).Move(f.Put(0, -h*0.9)).Quad(f.Put(3, -h*1.5), f.Put(5, -h*0.4)).Quad(f.Put(3, h*0.3), f.Put(0, h*0.2)),
				"thin",
				"#d9d2c6",
			)
		}
	case "silvery-scales":
		p := plate.NewPath(2)
		for range 46 {
			at := plate.Between(w.rng, 1, w.length)
			q := w.axis(at).Put(0, plate.Between(w.rng, -0.95, 0.95)*w.half(at))
			p.Segment(q.Sub(plate.Point{X: 0.14}), q.Add(plate.Point{X: 0.14})).Segment(q.Sub(plate.Point{Y: 0.14}), q.Add(plate.Point{Y: 0.14}))
		}
		w.c.Path(p, "gleam thin", "")
	}
	w.c.End()
}

// hairs stand out most at the rims.
func (w *twig) hairs() {
	state := w.Shows.State("twig.hair", "none")
	n, long := 0, 0.5
	switch state {
	case "sparse":
		n = 26
	case "downy":
		n, long = 110, 0.55
	case "velvety":
		n, long = 170, 1.2
	}
	p := plate.NewPath(2)
	for i := range n {
		at := plate.Between(w.rng, 0, w.length)
		f, v := w.axis(at), plate.Between(w.rng, -1, 1)
		if i%3 > 0 {
			v = math.Copysign(1, v)
		}
		q := f.Put(0, v*w.half(at))
		p.Segment(q, q.Add(f.Put(long*0.5, v*long).Sub(f.At)))
	}
	w.c.Group("twig.hair", "hair")
	w.c.Path(p, "", "")
	w.c.End()
	if w.Shows.Seen("twig.glands") {
		w.glands()
	}
}

func (w *twig) glands() {
	stalks, heads := plate.NewPath(2), plate.NewPath(2)
	for range 40 {
		at, s := plate.Between(w.rng, 2, w.length), math.Copysign(1, plate.Between(w.rng, -1, 1))
		f := w.axis(at)
		q := f.Put(0.3, s*(w.half(at)+0.9))
		stalks.Segment(f.Put(0, s*w.half(at)), q)
		heads.Circle(q, 0.16)
	}
	w.c.Group("twig.glands", "hair")
	w.c.Path(stalks, "", "")
	w.c.Path(heads, "dot", "")
	w.c.End()
}

// arms are thorns, spines and prickles.
func (w *twig) arms() {
	state := w.Shows.State("twig.arms", "none")
	if state == "none" {
		return
	}
	w.c.Group("twig.arms", "")
	defer w.c.End()
	thorn := func(from plate.Point, angle, l, thick float64) {
		f := plate.Frame{At: from, Angle: angle}
		p := plate.NewPath(2).
			Move(f.Put(0, -thick/2)).
			Quad(f.Put(0.4*l, -thick*0.28), f.Put(l, 0)).
			Quad(f.Put(0.4*l, thick*0.28), f.Put(0, thick/2)).
			Close()
		w.c.Path(p, "", plate.Wash("red-brown"))
	}
	for i, n := range w.nodes {
		s := 1 - 2*float64(i%2)
		f := w.axis(n.at)
		switch state {
		case "paired-spines":
			for _, k := range []float64{-1, 1} {
				thorn(f.Put(-0.5, k*w.half(n.at)), f.Angle+k*1.25, plate.Clamp(2.4*w.d, 4, 9), 0.5*w.d)
			}
		case "single-thorns":
			thorn(f.Put(0.6, -s*w.half(n.at)), f.Angle-s*1.3, plate.Clamp(9*w.d, 14, 36), 0.42*w.d)
		case "branched-thorns":
			if i%2 == 0 {
				l := plate.Clamp(8*w.d, 24, 44)
				at := plate.Frame{At: f.Put(1, -s*w.half(n.at)), Angle: f.Angle - s*1.15}
				thorn(at.At, at.Angle, l, 0.5*w.d)
				thorn(at.Put(0.3*l, 0), at.Angle+0.95, 0.34*l, 0.34*w.d)
				thorn(at.Put(0.45*l, 0), at.Angle-0.9, 0.3*l, 0.3*w.d)
			}
		case "thorn-tips":
			if i%2 == 1 && i < 6 {
				l := plate.Between(w.rng, 10, 18)
				thorn(f.Put(0, s*w.half(n.at)), f.Angle+s*1.1, l, 0.55*w.d)
			}
		}
	}
	if state == "prickles" {
		for range 16 {
			at, s := plate.Between(w.rng, 4, w.length), math.Copysign(1, plate.Between(w.rng, -1, 1))
			thorn(w.rimAt(at, s), w.axis(at).Angle+s*1.7, 2.6, 1.5)
		}
	}
}

// spurs are short shoots, ringed by the years.
func (w *twig) spurs() {
	if !w.Shows.Seen("twig.spurs") {
		return
	}
	w.c.Group("twig.spurs", "")
	defer w.c.End()
	if w.Build.Internode < 15 { // larches are set with them, on wood of any age
		for at, s := 0.16*w.length, 1.0; at < w.length+8; at, s = at+plate.Between(w.rng, 5, 7.5), -s {
			w.spur(at, s)
		}
		return
	}
	for i, n := range w.nodes {
		if i%2 == 0 && n.at > 0.2*w.length {
			w.spur(n.at+2, side(n.around[0]))
		}
	}
}

// spur is one, to a side.
func (w *twig) spur(from, s float64) {
	f := w.axis(from)
	at := plate.Frame{At: f.Put(0, s*w.half(from)*0.9), Angle: f.Angle + s*1.25}
	l, r := plate.Between(w.rng, 2.6, 5), plate.Clamp(0.55*w.d, 1, 2)
	p := plate.NewPath(2).Poly([]plate.Point{at.Put(0, -r), at.Put(l, -r*1.1), at.Put(l, r*1.1), at.Put(0, r)}, true)
	w.c.Path(p, "", w.wash)
	rings := plate.NewPath(2)
	for u := 0.8; u < l; u += 0.8 {
		rings.Move(at.Put(u, -r)).Quad(at.Put(u+0.4, 0), at.Put(u, r))
	}
	w.c.Path(rings, "thin", "")
	w.drawBud(plate.Frame{At: at.Put(l, 0), Angle: at.Angle}, min(w.bud, 2.2*r), 1)
}
