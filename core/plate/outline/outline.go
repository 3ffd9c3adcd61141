// Package outline draws a whole tree as it stands against the sky, to scale, with a person
// beside it. It is grown: a trunk, its limbs in the shape of the crown, and what they branch
// into, down to the spray.
package outline

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"palethicket/core/plate"
)

// Width and Height are those of a drawing.
const Width, Height = 84.0, 112.0

const (
	ground = 106.0
	person = 1.75 // m
)

const styles = `.wood path{stroke:var(--ink)}.needles path{stroke:#3f6b43;opacity:.85}.dark .needles path{stroke:#86b586}` +
	`.contrast .needles path,.paper .needles path{stroke:#000;opacity:.7}` +
	`.held path{stroke:#a8743c;opacity:.75}.paper .held path{stroke:#000}` +
	`.fruit{fill:var(--ink);stroke:none}.red{fill:#8e2f2a;stroke:none}.paper .red{fill:#000}.person{fill:var(--soft);stroke:none}` +
	`.line{stroke:var(--soft);stroke-width:.3}.host path{stroke:var(--soft);opacity:.35}`

// Draw gives the drawing of a tree as SVG.
func Draw(t *plate.Tree, theme string) []byte {
	g := newGrowth(t)
	g.grow()
	g.thin()
	g.fit()
	g.c = plate.NewCanvas(t, theme, 0, 0, Width, Height, styles, Describe(t))
	g.draw()
	return g.c.Done()
}

// Small gives the same with its limbs only, for where it is drawn small.
func Small(t *plate.Tree, theme string) []byte {
	g := newGrowth(t)
	g.small = true
	g.grow()
	g.thin()
	g.fit()
	g.c = plate.NewCanvas(t, theme, 0, 0, Width, Height, styles, Describe(t))
	g.wood()
	if g.ever {
		g.needles()
	} else if g.Shows.Seen("fruit.leaves-held") {
		g.heldLeaves()
	}
	return g.c.Done()
}

// Spray gives the end of one limb, for how fine its twigs are.
func Spray(t *plate.Tree, theme string) []byte {
	g := newGrowth(t)
	g.crown, g.limbs, g.ever, g.h = "rounded", "ascending", false, 160
	g.limb(plate.Point{X: 42, Y: 104}, 0.04, 66, 2.4, 2, 0)
	g.c = plate.NewCanvas(t, theme, 0, 0, Width, Height, styles, Describe(t))
	g.wood()
	return g.c.Done()
}

// Describe says what the drawing shows.
func Describe(t *plate.Tree) string {
	return plate.Describe(t, fmt.Sprintf("Outline, %.2g m tall,", t.Height),
		[]string{"form.habit", "form.crown", "form.bole", "form.limbs", "form.spray", "form.suckers", "needle.kept", "fruit.kind"})
}

// stroke is one piece of wood: the middle, and how thick it is at its beginning and end.
type stroke struct {
	points    []plate.Point
	from, to  float64
	character string
	twig      bool // of the last order
}

// growth is a tree that grows.
type growth struct {
	*plate.Tree
	c       *plate.Canvas
	rng     *rand.Rand
	scale   float64 // of the drawing for a metre
	x       float64 // where it stands
	h       float64 // height, drawn
	half    float64 // half the width of its crown
	clear   float64
	crown   string
	limbs   string
	habit   string
	spray   spray
	ever    bool
	small   bool
	strokes []stroke
	ends    []plate.Point // of twigs: fruit hangs there
}

// spray is what the last branching looks like.
type spray struct {
	twigs int
	thick float64
	long  float64
}

var sprays = map[string]spray{
	"very-fine":   {7, 0.1, 3.4},
	"fine":        {6, 0.13, 3.1},
	"medium":      {5, 0.17, 2.9},
	"coarse":      {3, 0.28, 2.9},
	"very-coarse": {2, 0.46, 3},
}

func newGrowth(t *plate.Tree) *growth {
	g := &growth{Tree: t, rng: t.Rand("outline")}
	height := t.Height
	if t.Age == "young" {
		height = math.Max(2.5, 0.4*height)
	}
	if t.Seed != 0 {
		height *= plate.Between(g.rng, 0.86, 1.12)
	}
	g.crown = t.Shows.State("form.crown", "rounded")
	g.limbs = t.Shows.State("form.limbs", "ascending")
	g.habit = t.Shows.State("form.habit", "single-stem")
	g.spray = sprays[t.Shows.State("form.spray", "medium")]
	g.ever = t.Shows.State("needle.kept", "bare") != "bare"
	spread := t.Build.Spread
	switch g.crown {
	case "columnar":
		spread = math.Min(spread, 0.34)
	case "conical":
		spread = math.Min(spread, 0.62)
	case "spreading":
		spread = math.Max(spread, 0.95)
	}
	if t.Age == "young" {
		spread *= 0.75
	}
	g.scale = math.Min(98/height, 64/(spread*height))
	g.scale = math.Min(g.scale, 26) // a person fits beside a shrub
	g.h, g.half = height*g.scale, spread*height*g.scale/2
	g.x = 10 + math.Max(g.half, 12) + 4
	g.x = math.Max(g.x, 44)
	g.x = math.Min(g.x, Width-g.half-1)
	g.clear = t.Build.Clear * plate.Between(g.rng, 0.85, 1.15)
	switch t.Shows.State("form.bole", "") {
	case "straight-limbed":
		g.clear = math.Min(g.clear, 0.1)
	case "straight-clear":
		g.clear = math.Max(g.clear, 0.24)
	}
	return g
}

// mostStrokes is how many a drawing has: more are too fine to see.
const mostStrokes = 2600

// thin leaves out twigs where there are too many.
func (g *growth) thin() {
	over := float64(len(g.strokes)-mostStrokes) / float64(max(1, len(g.ends)))
	if over <= 0 {
		return
	}
	g.strokes = slices.DeleteFunc(g.strokes, func(s stroke) bool { return s.twig && g.rng.Float64() < over })
}

// fit brings what has grown to its height, and into the drawing.
func (g *growth) fit() {
	top, left, right := ground, g.x, g.x
	for _, s := range g.strokes {
		for _, q := range s.points {
			top, left, right = math.Min(top, q.Y), math.Min(left, q.X), math.Max(right, q.X)
		}
	}
	k := g.h / math.Max(1, ground-top) // it is as tall as it is said to be
	if g.habit == "vine" {
		k = 1
	}
	room := Width - 15.0 // beside the person
	small := math.Min(1, room/math.Max(1, (right-left)*k))
	k *= small
	g.scale *= small
	g.h *= small
	x := 14 + room/2 - ((left+right)/2-g.x)*k
	move := func(q plate.Point) plate.Point { return plate.Point{X: x + (q.X-g.x)*k, Y: ground + (q.Y-ground)*k} }
	for i := range g.strokes {
		s := &g.strokes[i]
		for j, q := range s.points {
			s.points[j] = move(q)
		}
		s.from, s.to = s.from*small, s.to*small
	}
	for i, q := range g.ends {
		g.ends[i] = move(q)
	}
	g.x = x
}

// trunkWidth is how thick the trunk is at breast height, drawn.
func (g *growth) trunkWidth() float64 {
	dbh := g.Shows.Value("form.dbh", 35)
	if g.Age == "young" {
		dbh *= 0.4
	}
	return plate.Clamp(dbh/100*g.scale, 0.5, 7)
}

// share gives half the width of the crown, as a share of the most, at u from its lower end
// to its top.
func (g *growth) share(u float64) float64 {
	switch g.crown {
	case "columnar":
		return 0.55 + 0.45*math.Sin(math.Pi*plate.Clamp(u*0.9+0.1, 0, 1))
	case "conical":
		return math.Max(0.04, 1-u) * (0.75 + 0.25*plate.Smooth(0, 0.12, u))
	case "flat-topped":
		return 0.35 + 0.65*plate.Smooth(0, 0.75, u)
	case "vase":
		return 0.2 + 0.8*plate.Smooth(0, 0.8, u)
	case "spreading":
		return math.Sqrt(math.Max(0, 1-math.Pow(1.75*(u-0.42), 2)))
	case "ragged":
		return math.Sqrt(math.Max(0, 1-math.Pow(1.9*(u-0.5), 2))) * plate.Between(g.rng, 0.45, 1.1)
	}
	return math.Sqrt(math.Max(0, 1-math.Pow(1.9*(u-0.46), 2)))
}

func (g *growth) grow() {
	switch g.habit {
	case "shrub-clump":
		g.clump(11, 0.5*g.half)
	case "thicket":
		g.clump(13, 1.6*g.half)
	case "many-stemmed-tree":
		g.stems()
	case "vine":
		g.vine()
	default:
		g.tree(g.x, 0, g.h, g.trunkWidth())
	}
	if g.Shows.Seen("form.suckers") {
		g.shoots(10, 0.14*g.h)
	}
	if g.Shows.Seen("form.trunk-sprouts") {
		g.sprouts()
	}
}

// straight says whether the trunk runs through the crown to its top.
func (g *growth) straight() bool {
	return g.crown == "conical" || g.crown == "columnar" && g.limbs != "ascending" || g.limbs == "tiered-whorls" ||
		g.ever && g.crown != "spreading" ||
		g.crown == "columnar" && g.Build.LimbAngle > 25
}

// tree grows one on a trunk; lean is the angle it leaves the ground at.
func (g *growth) tree(x, lean, h, width float64) {
	fork := g.clear + 0.16
	if g.straight() {
		fork = 0.97
	} else if g.habit == "forked-low" {
		fork = math.Max(0.06, 1.6*g.scale/g.h)
	} else if g.crown == "vase" {
		fork = g.clear + 0.04
	} else if g.crown == "rounded" {
		fork = g.clear + 0.3
	}
	trunk := g.trunk(x, lean, h*fork, width, g.straight())
	g.alongTrunk(trunk, h, fork, width)
	if !g.straight() {
		g.leaders(trunk, h, fork, width)
	}
}

// trunk grows the trunk as its bole was scored.
func (g *growth) trunk(x, lean, l, width float64, through bool) []plate.Point {
	bole := g.Shows.State("form.bole", "straight-clear")
	if bole == "leaning" && lean == 0 {
		lean = 0.22
	}
	points := []plate.Point{{X: x, Y: ground}}
	angle, wander := lean, 0.012
	if bole == "crooked" {
		wander = 0.13
	}
	const steps = 14
	at := points[0]
	for range steps {
		angle += wander*plate.Between(g.rng, -1, 1) - 0.2*(angle-lean*0.6)
		at = at.Add(plate.Point{X: l / steps * math.Sin(angle), Y: -l / steps * math.Cos(angle)})
		points = append(points, at)
	}
	end := width * 0.62
	if through {
		end = 0.3
	}
	g.strokes = append(g.strokes, stroke{points, width * 1.12, end, "form.bole", false})
	if bole == "fluted" {
		for _, k := range []float64{-0.25, 0.2} {
			flute := []plate.Point{}
			for _, q := range points[:10] {
				flute = append(flute, q.Add(plate.Point{X: k * width}))
			}
			g.strokes = append(g.strokes, stroke{flute, -0.25, -0.2, "form.bole", false})
		}
	}
	return points
}

func at(points []plate.Point, t float64) plate.Point {
	f := plate.Clamp(t, 0, 1) * float64(len(points)-1)
	i := min(int(f), len(points)-2)
	return points[i].To(points[i+1], f-float64(i))
}

// alongTrunk grows the limbs that leave the trunk below its fork, or all of them.
func (g *growth) alongTrunk(trunk []plate.Point, h, fork, width float64) {
	first := g.clear
	n := 7
	if g.straight() {
		n = int(plate.Clamp(26+14*(1-g.Build.Spread), 22, 38))
		if g.ever {
			n = 44
		}
	}
	if g.crown == "spreading" {
		n = 4
	}
	if fork <= first+0.05 {
		return
	}
	side := 1.0
	for i := range n {
		u := (float64(i) + 0.5) / float64(n)
		if g.limbs == "tiered-whorls" { // several from one height
			u = (math.Floor(float64(i)/3) + 0.5) / math.Ceil(float64(n)/3)
		}
		y := first + (fork-first)*u // share of the height
		side = -side
		l := g.half * g.share((y-first)/(1-first)) * plate.Between(g.rng, 0.72, 1.04)
		if g.limbs == "tiered-whorls" {
			l *= plate.Between(g.rng, 0.45, 1)
		}
		start := at(trunk, y/fork)
		angle := plate.Radians(g.Build.LimbAngle) * (1.12 - 0.5*u*b2f(!g.ever))
		l = math.Min(l/math.Max(0.25, math.Sin(math.Min(angle, 1.5))), 0.6*h)
		if i%3 == 2 { // it points at us, or away
			turned := plate.Between(g.rng, 0.1, 0.6)
			l *= math.Sqrt(math.Pow(math.Cos(angle), 2) + math.Pow(turned*math.Sin(angle), 2))
			angle = math.Atan2(turned*math.Sin(angle), math.Cos(angle))
		}
		thick := plate.Clamp(width*0.36*(1-0.65*u)*math.Sqrt(l/math.Max(g.half, 1)), 0.22, width*0.5)
		g.limb(start, side*angle, l, thick, 2, y)
	}
}

func b2f(b bool) float64 {
	if b {
		return 1
	}
	return 0
}

// leaders grow from the fork and fill the crown.
func (g *growth) leaders(trunk []plate.Point, h, fork, width float64) {
	n, most := 5, 0.95
	switch g.crown {
	case "vase":
		n, most = 7, 0.62
	case "columnar":
		n, most = 6, plate.Radians(g.Build.LimbAngle)*0.42
	case "spreading":
		n, most = 9, 1.2
	case "flat-topped":
		n, most = 6, 0.85
	case "weeping":
		n, most = 7, 0.95
	}
	top := at(trunk, 1)
	for i := range n {
		k := 2*float64(i)/float64(n-1) - 1
		angle := k*most + plate.Between(g.rng, -0.07, 0.07)
		l := g.reach(top, angle, h) * plate.Between(g.rng, 0.9, 1.02)
		start := at(trunk, 1-0.14*math.Abs(k)*b2f(g.crown != "vase"))
		g.limb(start, angle*0.8, l, width*0.52*(1-0.3*math.Abs(k)), 3, fork)
	}
}

// reach is how far a leader grows at an angle before it comes to the rim of the crown.
func (g *growth) reach(from plate.Point, angle, h float64) float64 {
	base, top := ground-g.clear*h, ground-h
	step := 0.02 * h
	for l := step; ; l += step {
		x, y := from.X+l*math.Sin(angle), from.Y-l*math.Cos(angle)
		u := (base - y) / (base - top)
		if u > 1 || u < -0.1 || math.Abs(x-g.x) > g.half*g.share(plate.Clamp(u, 0, 1))*1.02 || l > h {
			return l
		}
	}
}
