package twig

import (
	"math"

	"palethicket/core/plate"
)

// catkins wait at the end of the twig at their true length.
func (w *twig) catkins(f plate.Frame) {
	n := map[string]int{"singly": 1, "twos-and-threes": 3, "fours-and-more": 5}[w.Shows.State("fruit.catkins", "none")]
	if n == 0 {
		return
	}
	l := plate.Clamp(w.Shows.Value("fruit.catkin-length", 25), 6, 60)
	w.c.Group("fruit.catkins", "")
	defer w.c.End()
	for i := range n {
		k := float64(i) - float64(n-1)/2
		start := f.Put(-2-1.5*float64(i%2), -w.half(0)*0.6)
		angle := math.Pi - plate.Radians(-34+k*17) // they hang beside the twig
		w.catkin(plate.Frame{At: start.Add(plate.Point{X: -1.2 - 1.6*math.Abs(k)}), Angle: angle}, l*plate.Between(w.rng, 0.9, 1.05))
	}
}

func (w *twig) catkin(f plate.Frame, l float64) {
	r := plate.Clamp(0.085*l, 1, 2.6)
	rim := func(u, s float64) plate.Point {
		return f.Put(u*l, s*r*math.Sqrt(math.Max(0, math.Sin(math.Pi*plate.Clamp(0.06+0.9*u, 0, 1)))))
	}
	points := []plate.Point{}
	for i := range 9 {
		points = append(points, rim(float64(i)/8, -1))
	}
	for i := 8; i >= 0; i-- {
		points = append(points, rim(float64(i)/8, 1))
	}
	w.c.Path(plate.NewPath(2).Curve(points, true), "", plate.Wash("brown"))
	scales := plate.NewPath(2)
	for u := 0.07; u < 0.95; u += 1.7 / l {
		scales.Move(rim(u, -1)).Quad(rim(u+1.6/l, 0), rim(u, 1))
	}
	w.c.Path(scales, "thin", "")
}

// heldLeaf is last summer's, dry, on its stalk.
func (w *twig) heldLeaf(n node) {
	w.c.Group("fruit.leaves-held", "thin")
	w.leaf(plate.Frame{At: w.rimAt(n.at, -1).Add(plate.Point{X: -3, Y: 4}), Angle: math.Pi + 0.3}, w.rimAt(n.at, -1), 26, "leaf")
	w.c.End()
}

// greenLeaves are those of a broad evergreen.
func (w *twig) greenLeaves() {
	w.c.Group("needle.kept", "thin")
	defer w.c.End()
	for i, n := range w.nodes {
		for k, a := range n.around {
			s := side(a)
			if len(n.around) == 1 {
				s = 1 - 2*float64(i%2)
			}
			foot := w.rimAt(n.at, s)
			w.leaf(plate.Frame{At: foot.Add(plate.Point{X: 2 * s, Y: -1}), Angle: s * (0.9 + 0.2*float64(k))}, foot, 19, "leaf green")
		}
	}
}

func (w *twig) leaf(f plate.Frame, foot plate.Point, l float64, class string) {
	r := 0.29 * l
	left, right := []plate.Point{}, []plate.Point{}
	for i := range 9 {
		u := float64(i) / 8
		r := r * math.Pow(math.Sin(math.Pi*plate.Clamp(0.03+0.95*u, 0, 1)), 0.8)
		left = append(left, f.Put(u*l, -r*(0.7+0.12*math.Sin(9*u))))
		right = append(right, f.Put(u*l, r*(1+0.1*math.Cos(11*u))))
	}
	for i := len(right) - 1; i >= 0; i-- {
		left = append(left, right[i])
	}
	w.c.Path(plate.NewPath(2).Segment(foot, f.At), "", "")
	w.c.Path(plate.NewPath(2).Curve(left, true), class, "")
	veins := plate.NewPath(2).Segment(f.Put(0, 0), f.Put(l, 0.4))
	for u := 0.14; u < 0.85; u += 0.12 {
		r := 0.8 * r * math.Sin(math.Pi*u)
		veins.Segment(f.Put(u*l, 0), f.Put((u+0.1)*l, r)).Segment(f.Put(u*l, 0), f.Put((u+0.1)*l, -0.7*r))
	}
	w.c.Path(veins, "", "")
}

// hanging is fruit that small twigs carry: the cones of alders, where they are known.
func (w *twig) hanging() {
	if w.Shows.State("fruit.kind", "") != "woody-conelets" || w.Shows.State("fruit.catkins", "none") == "none" {
		return
	}
	w.c.Group("fruit.kind", "")
	defer w.c.End()
	at := 0.24 * w.length
	f := w.axis(at)
	l := plate.Clamp(w.Shows.Value("fruit.cone-length", 15), 8, 28)
	for k := range 3 {
		q := f.Put(-3-5*float64(k), w.half(at)+5+2.6*float64(k))
		w.c.Path(plate.NewPath(2).Move(f.Put(0, w.half(at))).Quad(f.Put(2, w.half(at)+4), q), "", "")
		r := 0.34 * l
		c := plate.Point{X: q.X + 1, Y: q.Y + l/2}
		w.c.Path(plate.NewPath(2).Ellipse(c, r, l/2), "", plate.Wash("dark-brown"))
		scales := plate.NewPath(2)
		for row := range 5 {
			for col := range 4 {
				x := c.X + r*(-0.7+0.47*float64(col)+0.22*float64(row%2))*0.9
				y := c.Y - l/2 + l*(0.16+0.17*float64(row))
				scales.Move(plate.Point{X: x - 0.22*r, Y: y}).Quad(plate.Point{X: x, Y: y + 0.12*l}, plate.Point{X: x + 0.22*r, Y: y})
			}
		}
		w.c.Path(scales, "gleam thin", "")
	}
}

// foliage is needles in their bundles and ranks, or scale leaves.
func (w *twig) foliage() {
	if w.Shows.State("needle.kept", "") == "scale-leaves" {
		w.scaleLeaves()
		return
	}
	long := plate.Clamp(w.Shows.Value("needle.length", 20), 4, 150)
	bundle := map[string]int{"twos": 2, "threes": 3, "fives": 5, "tufts-on-spurs": 14}[w.Shows.State("needle.bundle", "single")]
	set := w.Shows.State("needle.set", "all-round")
	step := plate.Clamp(w.Build.Internode*0.16, 0.55, 1.2)
	if bundle > 1 {
		step = plate.Clamp(3.6*float64(bundle)/5, 1.7, 3.4)
	}
	most := math.Asin(plate.Clamp(23/long, 0.12, 1)) // long needles point forward, as there is no room beside

	p := plate.NewPath(2)
	for at, i := 1.0, 0; at < w.length; at, i = at+step, i+1 {
		f, s := w.axis(at), 1-2*float64(i%2)
		v := plate.Between(w.rng, 0.3, 1) * s
		angle := s * plate.Between(w.rng, 0.55, 1.1)
		switch set {
		case "flat-two-ranks":
			v, angle = s, s*plate.Between(w.rng, 1.15, 1.4)
		case "swept-up":
			v, angle = plate.Between(w.rng, -1, 1), s*plate.Between(w.rng, 0.2, 0.75)
		}
		if math.Abs(angle) > most {
			angle = math.Copysign(most*plate.Between(w.rng, 0.45, 1), angle)
		}
		for k := range max(1, bundle) {
			spread := 0.0
			if bundle > 1 {
				spread = (float64(k) - float64(bundle-1)/2) * 0.11 * math.Min(1, 5/float64(bundle)*2)
			}
			g := plate.Frame{At: f.Put(0, v*w.half(at)), Angle: f.Angle + angle + spread}
			l := long * plate.Between(w.rng, 0.86, 1.06)
			if top := g.At.Y - 2; l*math.Cos(g.Angle) > top {
				l = top / math.Cos(g.Angle)
			}
			p.Move(g.Put(0, 0)).Quad(g.Put(0.55*l, 0), g.Put(l, 0.04*l*s))
		}
	}
	of := "needle.set"
	if bundle > 1 {
		of = "needle.bundle"
	}
	w.c.Group(of, "needle")
	w.c.Path(p, "", "")
	w.c.End()
}

// scaleLeaves lie pressed to sprays of small twigs.
func (w *twig) scaleLeaves() {
	w.c.Group("needle.kept", "scaleleaf")
	defer w.c.End()
	p := plate.NewPath(2)
	var spray func(f plate.Frame, l, r float64, deep int)
	spray = func(f plate.Frame, l, r float64, deep int) {
		for u := 0.0; u < l; u += 1.9 * r {
			for _, s := range []float64{-1, 1} {
				p.Move(f.Put(u, 0)).Quad(f.Put(u+0.4*r, s*1.15*r), f.Put(u+2.1*r, s*0.75*r)).Quad(f.Put(u+1.6*r, 0), f.Put(u+1.2*r, 0))
			}
			if deep > 0 && u > 0.12*l && int(u/(1.9*r))%3 == 1 {
				s := 1 - 2*float64(int(u/(5.7*r))%2)
				spray(plate.Frame{At: f.Put(u, 0), Angle: f.Angle + s*0.85}, (l-u)*0.5+3, r*0.85, deep-1)
			}
		}
	}
	for at, i := 2.0, 0; at < w.length; at, i = at+7, i+1 {
		s := 1 - 2*float64(i%2)
		f := w.axis(at)
		spray(plate.Frame{At: f.Put(0, s*w.half(at)), Angle: f.Angle + s*0.8}, 8+0.14*at, 0.75, 1)
	}
	w.c.Raw(`<g style="fill:#6f9a63">`)
	w.c.Path(p, "thin", "#7d9f6c")
	w.c.Raw("</g>")
}
