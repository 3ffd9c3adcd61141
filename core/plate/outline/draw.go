package outline

import (
	"fmt"
	"math"
	"slices"

	"palethicket/core/plate"
)

// draw puts all on the canvas: thick wood first, then what it bears.
func (g *growth) draw() {
	g.c.Path(plate.NewPath(1).Segment(plate.Point{X: 1, Y: ground}, plate.Point{X: Width - 1, Y: ground}), "line", "")
	if g.habit == "vine" {
		g.host()
	}
	g.wood()
	if g.ever {
		g.needles()
	} else if g.Shows.Seen("fruit.leaves-held") {
		g.heldLeaves()
	}
	g.fruit()
	g.person()
}

// host is the tree that a vine climbs on.
func (g *growth) host() {
	g.c.Group("", "host")
	g.c.Raw(`<path stroke-width="6" d="M%.1f %gV4"/>`, g.x, ground)
	g.c.End()
}

// wood is drawn in the thicknesses that a pen has: each piece in the one of its middle,
// thick ones as tapering shapes.
func (g *growth) wood() {
	pens := map[string]*plate.Path{}
	for _, s := range g.strokes {
		if s.from > 0.6 {
			g.taper(&s)
			continue
		}
		pen := math.Round((math.Abs(s.from)+math.Abs(s.to))/2*20) / 20
		key := fmt.Sprintf("%s %05.2f", s.character, math.Max(pen, 0.1))
		if s.from < 0 { // a groove on wood
			key = fmt.Sprintf("%s %05.2fg", s.character, pen)
		}
		if pens[key] == nil {
			pens[key] = plate.NewPath(1)
		}
		if len(s.points) == 2 {
			pens[key].Segment(s.points[0], s.points[1])
		} else {
			pens[key].Poly(s.points, false)
		}
	}
	keys := []string{}
	for key := range pens {
		keys = append(keys, key)
	}
	slices.Sort(keys)
	for _, key := range keys {
		var of string
		var pen float64
		_, _ = fmt.Sscanf(key, "%s %f", &of, &pen)
		g.c.Group(of, "wood")
		if key[len(key)-1] == 'g' {
			g.c.Raw(`<path style="stroke:var(--ground);stroke-width:%.2f" d="%s"/>`, pen, pens[key])
		} else {
			g.c.Raw(`<path stroke-width="%.2f" d="%s"/>`, pen, pens[key])
		}
		g.c.End()
	}
}

// taper draws a thick piece as a shape.
func (g *growth) taper(s *stroke) {
	n := len(s.points)
	left, right := make([]plate.Point, n), make([]plate.Point, n)
	for i, q := range s.points {
		a, b := s.points[max(0, i-1)], s.points[min(n-1, i+1)]
		d := b.Sub(a)
		l := math.Max(d.Length(), 1e-6)
		t := float64(i) / float64(n-1)
		w := (s.from + (s.to-s.from)*math.Pow(t, 0.8)) / 2
		if s.points[0].Y == ground { // roots
			w *= 1 + 0.55*math.Exp2(-t*34)
		}
		off := plate.Point{X: -d.Y / l * w, Y: d.X / l * w}
		left[i], right[i] = q.Add(off), q.Sub(off)
	}
	slices.Reverse(right)
	g.c.Group(s.character, "")
	g.c.Raw(`<path style="fill:var(--ink);stroke:none" d="%s"/>`, plate.NewPath(1).Poly(append(left, right...), true))
	g.c.End()
}

// needles stand along the branches of a tree that keeps its leaves.
func (g *growth) needles() {
	p := plate.NewPath(1)
	tuft := g.Shows.State("needle.bundle", "single") != "single" && g.Shows.State("needle.kept", "") == "needles"
	l, pen := 1.7, 0.5
	if tuft {
		l, pen = 2.3, 0.36
	}
	if g.Shows.State("needle.kept", "") == "broad-evergreen" {
		l, pen = 0.9, 0.9
	}
	all := 0.0
	for _, s := range g.strokes {
		if s.from < 1.2 {
			all += s.points[0].Sub(s.points[len(s.points)-1]).Length()
		}
	}
	step := math.Max(0.7, all/1100)
	for _, s := range g.strokes {
		if s.from >= 1.2 {
			continue
		}
		long := s.points[0].Sub(s.points[len(s.points)-1]).Length()
		for u := step * plate.Between(g.rng, 0.3, 1); u < long; u += step {
			q := at(s.points, u/long)
			r := at(s.points, u/long+0.1)
			way := math.Atan2(r.X-q.X, q.Y-r.Y)
			for _, k := range []float64{-1, 1} {
				a := way + k*plate.Between(g.rng, 0.4, 1.2)
				p.Segment(q, q.Add(plate.Point{X: l * math.Sin(a), Y: -l * math.Cos(a)}))
			}
		}
	}
	g.c.Group("needle.kept", "needles")
	g.c.Raw(`<path stroke-width="%.2f" d="%s"/>`, pen, p)
	g.c.End()
}

// heldLeaves hang where the crown is low and within.
func (g *growth) heldLeaves() {
	p := plate.NewPath(1)
	n := 0
	for _, q := range g.ends {
		if q.Y < ground-g.h*0.62 || n > 260 || g.rng.Float64() < 0.4 {
			continue
		}
		p.Segment(q, q.Add(plate.Point{X: plate.Between(g.rng, -0.5, 0.5), Y: plate.Between(g.rng, 0.5, 1)}))
		n++
	}
	g.c.Group("fruit.leaves-held", "held")
	g.c.Raw(`<path stroke-width=".7" d="%s"/>`, p)
	g.c.End()
}

// fruit hangs at the ends of twigs, where it can be seen from afar.
func (g *growth) fruit() {
	if !g.Shows.Seen("fruit.hanging") {
		return
	}
	kind := g.Shows.State("fruit.kind", "")
	dots, lines := plate.NewPath(1), plate.NewPath(1)
	class := "fruit"
	every := max(1, len(g.ends)/45)
	for i, q := range g.ends {
		if i%every != 0 {
			continue
		}
		switch kind {
		case "beaked-balls", "fluffy-balls":
			lines.Segment(q, q.Add(plate.Point{Y: 1.6}))
			dots.Circle(q.Add(plate.Point{Y: 2}), 0.5)
		case "long-bean":
			lines.Segment(q, q.Add(plate.Point{X: 0.2, Y: 4.5}))
		case "flat-pod":
			lines.Segment(q, q.Add(plate.Point{X: 0.6, Y: 2.6}))
		case "fuzzy-red-cluster":
			if i%(every*3) == 0 {
				dots.Ellipse(q.Sub(plate.Point{Y: 1.6}), 0.8, 2)
				class = "red"
			}
		case "haws-or-pomes", "berry-cluster", "small-drupes":
			dots.Circle(q, 0.38)
			class = "red"
		case "scaly-cone", "woody-conelets", "cone-of-keys":
			dots.Ellipse(q, 0.35, 0.6)
		default:
			return
		}
	}
	g.c.Group("fruit.kind", "")
	g.c.Path(dots, class, "")
	if !lines.Empty() {
		g.c.Raw(`<path stroke-width=".35" d="%s"/>`, lines)
	}
	g.c.End()
}

// person is one of 1.75 m.
func (g *growth) person() {
	h := person * g.scale
	x := 6.0
	y := func(u float64) float64 { return ground - u*h }
	w := 0.13 * h
	g.c.Raw(`<g class="scalebar"><circle class="person" cx="%.2f" cy="%.2f" r="%.2f"/>`, x, y(0.93), 0.07*h)
	at := func(v, u float64) plate.Point { return plate.Point{X: x + v*w, Y: y(u)} }
	body := plate.NewPath(2).Move(at(-1, 0.8)).Quad(at(0, 0.9), at(1, 0.8))
	for _, q := range [][2]float64{{0.85, 0.45}, {0.75, 0}, {0.15, 0}, {0, 0.42}, {-0.15, 0}, {-0.75, 0}, {-0.9, 0.45}} {
		body.Line(at(q[0], q[1]))
	}
	g.c.Path(body.Close(), "person", "")
	g.c.Text(plate.Point{X: 10, Y: ground + 4.6}, 3.6, "1.75 m")
	g.c.Text(plate.Point{X: g.x, Y: ground + 4.6}, 3.6, fmt.Sprintf("%.0f m tall", math.Max(1, g.h/g.scale)))
	g.c.Raw("</g>")
}
