package outline

import (
	"math"

	"palethicket/core/plate"
)

// limb grows a branch of some order (3 for leaders and limbs, 0 for twigs) and what it
// bears. Its angle is from upright, to the right.
func (g *growth) limb(start plate.Point, angle, l, thick float64, order int, _ float64) {
	if l < 0.7 {
		return
	}
	points := g.swept(start, angle, l, order)
	character := "form.crown"
	if order == 2 {
		character = "form.limbs"
	}
	end := thick * 0.3
	if order == 0 {
		end = thick * 0.7
	}
	g.strokes = append(g.strokes, stroke{points, thick, math.Max(end, g.spray.thick*0.8), character, order == 0})
	if order == 0 {
		g.ends = append(g.ends, points[len(points)-1])
		return
	}
	g.side(points, l, thick, order)
}

// side grows what a branch bears, left and right in turn.
func (g *growth) side(points []plate.Point, l, thick float64, order int) {
	if order == 1 && (g.ever || g.small && g.spray.twigs > 3) {
		g.ends = append(g.ends, points[len(points)-1])
		return // needles stand there, or it is too fine
	}
	n := map[int]int{3: 9, 2: 6, 1: g.spray.twigs}[order]
	if order == 2 {
		n = int(plate.Clamp(l/3.4, 3, 8))
	}
	if g.straight() && order == 2 {
		n = int(plate.Clamp(l/2.6, 3, 9))
	}
	turn := 1.0
	if g.rng.Float64() < 0.5 {
		turn = -1
	}
	for i := range n {
		t := 0.22 + 0.78*(float64(i)+plate.Between(g.rng, 0.2, 0.8))/float64(n)
		if order == 3 {
			t = 0.16 + 0.84*(float64(i)+0.5)/float64(n)
		}
		turn = -turn
		q := at(points, t)
		before := at(points, t-0.06)
		way := math.Atan2(q.X-before.X, before.Y-q.Y)
		open := plate.Between(g.rng, 0.5, 0.9)
		if g.crown == "columnar" {
			open *= plate.Clamp(g.Build.LimbAngle/50, 0.45, 1)
		}
		long := l * (0.56 - 0.3*t) * plate.Between(g.rng, 0.8, 1.15)
		if order == 1 {
			long = g.spray.long * plate.Between(g.rng, 0.6, 1.2) * plate.Clamp(g.h/70, 0.5, 1.1)
		}
		if order == 2 {
			long = math.Max(long, 2.4)
		}
		rest := math.Max(thick*(0.62-0.32*t)*0.7, g.spray.thick*(0.7+0.6*float64(order-1)))
		g.limb(q, way+turn*open, long, rest, order-1, 0)
	}
	if order > 1 { // it goes on as its own last branch
		q := at(points, 1)
		before := at(points, 0.9)
		way := math.Atan2(q.X-before.X, before.Y-q.Y)
		g.limb(q, way, math.Max(1.6, 0.2*l), math.Max(0.3*thick, g.spray.thick), 1, 0)
	}
}

// swept gives the middle of a branch: it bends as limbs were scored.
func (g *growth) swept(start plate.Point, angle, l float64, order int) []plate.Point {
	steps := map[int]int{3: 9, 2: 6, 1: 3, 0: 2}[order]
	points := []plate.Point{start}
	q := start
	side := math.Copysign(1, angle)
	wander := 0.1
	if g.crown == "ragged" {
		wander = 0.2
	}
	for i := range steps {
		u := (float64(i) + 0.5) / float64(steps)
		angle += g.turn(order, u, math.Abs(angle), side)/float64(steps) + wander*plate.Between(g.rng, -1, 1)*math.Min(1, 3/float64(steps))
		q = q.Add(plate.Point{X: l / float64(steps) * math.Sin(angle), Y: -l / float64(steps) * math.Cos(angle)})
		if q.Y > ground-0.6 {
			q.Y = ground - 0.6
		}
		points = append(points, q)
	}
	return points
}

// turn is how much a branch turns over its length at u; to the outside is positive.
func (g *growth) turn(order int, u, angle, side float64) float64 {
	if g.crown == "weeping" && order < 3 {
		return side * (math.Pi*0.97 - angle) * (1.1 + float64(2-order))
	}
	if g.crown == "weeping" {
		return side * 1.5 * u
	}
	if g.crown == "vase" && order == 3 { // they arch outward
		return side * (0.2 + 1.3*u*u)
	}
	if order < 2 {
		switch {
		case g.limbs == "drooping":
			return side * 0.5
		case g.ever:
			return 0
		}
		return -side * 0.35 * angle // twigs seek the light
	}
	switch g.limbs {
	case "level":
		return side * (1.45 - angle) * 0.9
	case "drooping":
		return side * (2.05 - angle) * 1.1
	case "upturned-tips":
		return side * ((2-angle)*1.5*(1-u) - 2.6*u*u)
	case "tiered-whorls":
		return side * ((1.5-angle)*0.8 - 0.7*u)
	}
	return -side * angle * 0.5
}

// clump grows stems from one base, or over a patch.
func (g *growth) clump(n int, wide float64) {
	if g.small {
		n = n/2 + 1
	}
	for i := range n {
		k := 2*(float64(i)+plate.Between(g.rng, 0.2, 0.8))/float64(n) - 1
		x := g.x + k*wide*0.25
		if g.habit == "thicket" {
			x = g.x + k*math.Min(wide, Width/2-6)
		}
		lean := k * plate.Radians(g.Build.LimbAngle) * 0.85
		if g.habit == "thicket" {
			lean = plate.Between(g.rng, -0.12, 0.12)
		}
		h := g.h * plate.Between(g.rng, 0.72, 1) / math.Max(0.75, math.Cos(lean))
		g.limb(plate.Point{X: x, Y: ground}, lean, h*0.86, plate.Clamp(g.trunkWidth(), 0.5, 1.6), 3, 0)
	}
}

// stems are several trunks of one tree.
func (g *growth) stems() {
	n := 4
	for i := range n {
		k := 2*float64(i)/float64(n-1) - 1
		saved := g.half
		g.half *= 0.62
		x, h := g.x+k*1.4, g.h*plate.Between(g.rng, 0.86, 1)
		lean := k * 0.24
		trunk := g.trunk(x, lean+0.001, 0.5*h, g.trunkWidth()*0.62, false)
		top := at(trunk, 1)
		for j := range 3 {
			a := k*0.4 + (float64(j)-1)*0.5
			g.limb(top, a, (0.52-0.06*math.Abs(float64(j)-1))*h, g.trunkWidth()*0.36, 3, 0)
		}
		for j := range 2 {
			g.limb(at(trunk, 0.66+0.16*float64(j)), math.Copysign(0.8, k), 0.26*h, g.trunkWidth()*0.25, 2, 0)
		}
		g.half = saved
	}
}

// vine climbs on a trunk that is not its own.
func (g *growth) vine() {
	w := 5.0
	for i := range 3 {
		x := g.x + 6*float64(i-1)*0.5
		points := []plate.Point{}
		for y := ground; y > 8; y -= 3 {
			u := (ground - y) / 98
			points = append(points, plate.Point{X: x + w*0.5*math.Sin(u*9+float64(i)*2.1), Y: y})
		}
		g.strokes = append(g.strokes, stroke{points, 1.3, 0.5, "form.habit", false})
		for t := 0.12; t < 1; t += 0.05 {
			side := math.Copysign(1, plate.Between(g.rng, -1, 1))
			g.limb(at(points, t), side*plate.Between(g.rng, 0.9, 1.9), plate.Between(g.rng, 5, 13), 0.3, 1, 0)
		}
	}
}

// shoots come up from the roots.
func (g *growth) shoots(n int, h float64) {
	for range n {
		x := g.x + plate.Between(g.rng, -1, 1)*math.Max(7, 0.8*g.half)
		l := h * plate.Between(g.rng, 0.4, 1)
		points := []plate.Point{{X: x, Y: ground}, {X: x + plate.Between(g.rng, -0.8, 0.8), Y: ground - l}}
		g.strokes = append(g.strokes, stroke{points, 0.32, 0.16, "form.suckers", false})
		for _, t := range []float64{0.5, 0.7, 0.85} {
			q := at(points, t)
			g.strokes = append(
				g.strokes,
				stroke{[]plate.Point{q, q.Add(plate.Point{X: plate.Between(g.rng, -1.6, 1.6), Y: -1.2})}, 0.2, 0.14, "form.suckers", false},
			)
		}
	}
}

// sprouts stand on the trunk in tufts.
func (g *growth) sprouts() {
	for range 34 {
		q := plate.Point{
			X: g.x + math.Copysign(g.trunkWidth()*0.45, plate.Between(g.rng, -1, 1)),
			Y: ground - g.h*plate.Between(g.rng, 0.05, g.clear+0.12),
		}
		to := q.Add(plate.Point{X: math.Copysign(plate.Between(g.rng, 1, 3), q.X-g.x), Y: -plate.Between(g.rng, 1.5, 4)})
		g.strokes = append(g.strokes, stroke{[]plate.Point{q, to}, 0.2, 0.12, "form.trunk-sprouts", false})
	}
}
