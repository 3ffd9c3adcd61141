package fruit

import (
	"math"

	"palethicket/core/plate"
)

// kinds are the fruits, each with how many mm the drawing shows.
var kinds = map[string]drawn{
	"single-keys": {50, func(p *pencil) {
		for _, a := range []float64{2.6, 3.15, 3.7} {
			p.line("thin", at(30, 6), at(30+8*math.Sin(a), 12))
			p.key(at(30+9*math.Sin(a), 14), a, 36, 9, "tan")
		}
	}},
	"paired-keys": {50, func(p *pencil) {
		p.stalk(at(30, 4), at(29.5, 12), at(30, 20))
		p.key(at(28, 23), -2.25, 30, 12, "tan")
		p.key(at(32, 23), 2.25, 30, 12, "tan")
	}},
	"cone-of-keys": {90, func(p *pencil) {
		p.stalk(at(30, 58), at(30, 48))
		for i := range 15 {
			a := (float64(i) - 7) / 7 * 0.62
			p.key(at(30+3*a, 48), a, 38-7*math.Abs(a), 6, "tan")
		}
	}},
	"round-keys": {30, func(p *pencil) {
		for _, c := range []plate.Point{at(20, 24), at(40, 22), at(30, 42)} {
			p.line("thin", at(30, 3), c)
			p.egg(c, 10, 12, "tan")
			p.c.Path(plate.NewPath(1).Ellipse(c, 4, 5), "", plate.Wash("brown"))
			p.line("thin", at(c.X-1, c.Y+12), at(c.X, c.Y+9), at(c.X+1, c.Y+12))
		}
	}},
	"woody-conelets": {50, func(p *pencil) {
		p.stalk(at(30, 2), at(28, 10), at(30, 16))
		for _, c := range []plate.Point{at(18, 32), at(42, 30), at(31, 44)} {
			p.stalk(at(30, 14), at((30+c.X)/2, 18), at(c.X, c.Y-10))
			p.cone(c, 8, 11, "dark-brown", 5, 3)
		}
	}},
	"scaly-cone":         {110, func(p *pencil) { p.stalk(at(30, 2), at(30, 8)); p.cone(at(30, 33), 13, 25, "brown", 8, 4) }},
	"crumbling-conelets": {50, func(p *pencil) { p.cone(at(24, 28), 8, 20, "tan", 9, 3); p.crumbs(9) }},
	"knobbly-cones":      {50, func(p *pencil) { p.cone(at(30, 30), 16, 16, "grey-brown", 4, 3) }},
	"berry-like-cones":   {30, func(p *pencil) { p.bunch(5, 6.5, "grey", at(30, 2), 24) }},
	"small-capsules":     {30, func(p *pencil) { p.capsules(5) }},
	"beaked-balls":       {60, func(p *pencil) { p.hung(15, "dark-brown"); p.whiskers(at(30, 38), 15, 5, 44, "bold") }},
	"fluffy-balls":       {60, func(p *pencil) { p.hung(14, "tan"); p.whiskers(at(30, 38), 14, 2, 90, "thin") }},
	"flat-pod":           {160, func(p *pencil) { p.pod(5, 10, "dark-brown") }},
	"long-bean":          {300, func(p *pencil) { p.pod(1.6, 3, "brown") }},
	"husked-nut":         {60, func(p *pencil) { p.husk(true) }},
	"acorn":              {45, func(p *pencil) { p.acorn() }},
	"spiny-bur":          {80, func(p *pencil) { p.ball(at(30, 31), 16, "yellow-brown"); p.whiskers(at(30, 31), 16, 8, 110, "thin") }},
	"fuzzy-red-cluster":  {160, func(p *pencil) { p.cluster() }},
	"berry-cluster":      {60, func(p *pencil) { p.bunch(11, 4, "near-black", at(30, 2), 34) }},
	"small-drupes":       {40, func(p *pencil) { p.bunch(3, 8, "purple", at(30, 2), 26) }},
	"haws-or-pomes":      {40, func(p *pencil) { p.pomes() }},
	"nutlets-on-a-wing":  {90, func(p *pencil) { p.linden() }},
	"bladdery-sacs":      {70, func(p *pencil) { p.bladder() }},
	"large-berry": {60, func(p *pencil) {
		p.stalk(at(30, 2), at(30, 12))
		p.egg(at(30, 34), 19, 22, "orange")
		p.sepals(at(30, 13))
	}},
	"leathery-husk":    {60, func(p *pencil) { p.husk(false) }},
	"large-green-ball": {130, func(p *pencil) { p.ball(at(30, 31), 25, "sulphur-yellow"); p.wrinkles(at(30, 31), 24) }},
	"plumed-heads":     {60, func(p *pencil) { p.plumes() }},
	"red-cups": {20, func(p *pencil) {
		p.ball(at(30, 32), 15, "red")
		p.c.Path(plate.NewPath(1).Ellipse(at(30, 24), 8, 5), "dot", "")
	}},
	"pink-lobed-capsules": {25, func(p *pencil) { p.spindle() }},
	"leafy-bracts":        {50, func(p *pencil) { p.bracts() }},
}

func (p *pencil) crumbs(n int) {
	for range n {
		c := at(plate.Between(p.rng, 36, 56), plate.Between(p.rng, 30, 56))
		p.blob("tan", at(c.X-2, c.Y), at(c.X, c.Y-2), at(c.X+2, c.Y), at(c.X+1, c.Y+1.4), at(c.X, c.Y+0.6), at(c.X-1, c.Y+1.4))
	}
}

func (p *pencil) capsules(n int) {
	p.stalk(at(30, 2), at(31, 30), at(29, 58))
	for i := range n {
		s := 1 - 2*float64(i%2)
		y := 8 + 10*float64(i)
		x := 30 + 9*s
		p.line("thin", at(30, y+3), at(x, y))
		p.egg(at(x+3*s, y), 5, 4, "brown")
		p.line("thin", at(x+3*s, y-4), at(x+4*s, y), at(x+3*s, y+4))
	}
}

func (p *pencil) hung(r float64, color string) {
	p.stalk(at(30, 2), at(31, 12), at(30, 38-r))
	p.ball(at(30, 38), r, color)
}

// pod hangs, half as wide as said.
func (p *pencil) pod(half, bump float64, color string) {
	left, right := []plate.Point{}, []plate.Point{}
	for i := range 9 {
		u := float64(i) / 8
		x := 30 + 5*math.Sin(u*3.4)
		w := half * math.Pow(math.Sin(math.Pi*plate.Clamp(0.04+0.93*u, 0, 1)), 0.35)
		left, right = append(left, at(x-w, 8+48*u)), append(right, at(x+w, 8+48*u))
	}
	for i := 8; i >= 0; i-- {
		left = append(left, right[i])
	}
	p.stalk(at(30, 2), at(30, 8))
	p.blob(color, left...)
	if half > 3 {
		for i := 1; i < 7; i++ {
			u := float64(i) / 7
			p.c.Path(plate.NewPath(1).Ellipse(at(30+5*math.Sin(u*3.4), 8+48*u), half*0.45, bump*0.25), "thin", "")
		}
	}
}

// husk is a nut within: split where splits is true, else with a wart or two.
func (p *pencil) husk(splits bool) {
	p.stalk(at(30, 2), at(30, 9))
	p.egg(at(30, 31), 22, 23, "brown")
	if !splits {
		p.whiskers(at(30, 31), 20, 3, 14, "bold")
		p.line("", at(30, 9), at(28, 30), at(30, 54))
		return
	}
	p.c.Path(plate.NewPath(1).Ellipse(at(31, 35), 13, 16), "", plate.Wash("cream"))
	p.line("bold", at(30, 8), at(17, 22), at(16, 50))
	p.line("bold", at(30, 8), at(44, 24), at(45, 48))
	p.line("thin", at(31, 20), at(29, 35), at(31, 50))
}

func (p *pencil) acorn() {
	cup := p.Shows.State("fruit.acorn-cup", "bowl-third")
	share := map[string]float64{"shallow-saucer": 0.2, "bowl-third": 0.34, "deep-half": 0.52, "fringed": 0.56, "on-long-stalk": 0.34}[cup]
	if cup == "on-long-stalk" {
		p.stalk(at(52, 2), at(44, 4), at(30, 14))
	} else {
		p.stalk(at(30, 6), at(30, 14))
	}
	p.egg(at(30, 36), 13, 19, "tan")
	p.line("bold", at(30, 55), at(30, 57.5))
	low := 17 + 38*share
	rim := 13 * math.Sqrt(math.Max(0.1, 1-math.Pow((low-36)/19, 2)))
	p.blob(
		"brown",
		at(30-rim-2.4, low),
		at(30-rim-2, low-5),
		at(22, 15),
		at(30, 13),
		at(38, 15),
		at(30+rim+2, low-5),
		at(30+rim+2.4, low),
		at(30, low+2.6),
	)
	scales := plate.NewPath(1)
	for row := 0; float64(row)*3.4 < low-16; row++ {
		for col := range 7 {
			x, y := 30+(float64(col)-3+0.5*float64(row%2))*3.6, 16+3.4*float64(row)
			scales.Move(at(x-1.6, y)).Quad(at(x, y+2.6), at(x+1.6, y))
		}
	}
	p.c.Path(scales, "thin", "")
	if cup == "fringed" {
		hair := plate.NewPath(1)
		for i := range 26 {
			x := 30 + (rim+2.4)*(float64(i)/12.5-1)
			hair.Segment(at(x, low), at(x+plate.Between(p.rng, -2, 2), low+plate.Between(p.rng, 3, 6)))
		}
		p.c.Path(hair, "", "")
	}
}

func (p *pencil) cluster() {
	p.stalk(at(30, 60), at(30, 48))
	for row := range 12 {
		y := 50 - 3.7*float64(row)
		half := 13 * math.Sin(math.Pi*plate.Clamp(0.12+0.07*float64(row), 0, 1))
		for col := range 5 {
			p.c.Path(plate.NewPath(1).Circle(at(30+half*(float64(col)/2-1)+plate.Between(p.rng, -1, 1), y), 2.6), "thin", plate.Wash("red"))
		}
	}
}

func (p *pencil) pomes() {
	for _, c := range []plate.Point{at(20, 36), at(40, 34)} {
		p.line("", at(30, 3), at((30+c.X)/2, 14), at(c.X, c.Y-10))
		p.ball(c, 11, "red")
		p.sepals(at(c.X, c.Y+11))
	}
}

func (p *pencil) sepals(c plate.Point) {
	path := plate.NewPath(1)
	for _, x := range []float64{-4, -2, 0, 2, 4} {
		path.Segment(c, at(c.X+x, c.Y+2.4))
	}
	p.c.Path(path, "bold", "")
}

func (p *pencil) linden() {
	p.blob("tan", at(12, 3), at(8, 20), at(12, 44), at(18, 50), at(23, 40), at(22, 18), at(17, 4))
	p.line("thin", at(15, 4), at(16, 26), at(17, 49))
	p.stalk(at(16, 24), at(28, 32), at(34, 40))
	for _, c := range []plate.Point{at(30, 50), at(40, 47), at(46, 40)} {
		p.line("thin", at(32, 36), c)
		p.ball(c, 4, "brown")
	}
}

func (p *pencil) bladder() {
	p.stalk(at(30, 2), at(30, 10))
	p.blob("tan", at(30, 10), at(14, 22), at(12, 42), at(20, 54), at(26, 48), at(30, 56), at(34, 48), at(40, 54), at(48, 42), at(46, 22))
	p.line("thin", at(30, 10), at(26, 30), at(30, 54))
	p.line("thin", at(30, 12), at(42, 28), at(39, 50))
	p.line("thin", at(30, 12), at(18, 28), at(21, 50))
}

func (p *pencil) wrinkles(c plate.Point, r float64) {
	path := plate.NewPath(1)
	for range 60 {
		a, d := plate.Between(p.rng, 0, 2*math.Pi), r*math.Sqrt(p.rng.Float64())*0.92
		q := at(c.X+d*math.Cos(a), c.Y+d*math.Sin(a))
		path.Move(q).Quad(at(q.X+2, q.Y-1.6), at(q.X+3.4, q.Y+0.6))
	}
	p.c.Path(path, "thin", "")
}

func (p *pencil) plumes() {
	c := at(30, 36)
	path := plate.NewPath(1)
	for i := range 26 {
		s, cos := math.Sincos(2 * math.Pi * float64(i) / 26)
		path.Move(c).Quad(at(c.X+12*s+5*cos, c.Y-12*cos+5*s), at(c.X+24*s, c.Y-24*cos))
		for _, k := range []float64{0.5, 0.7, 0.9} {
			q := at(c.X+24*k*s, c.Y-24*k*cos)
			path.Segment(q, at(q.X+3*cos, q.Y+3*s)).Segment(q, at(q.X-3*cos, q.Y-3*s))
		}
	}
	p.c.Path(path, "thin", "")
	p.ball(c, 3, "brown")
}

func (p *pencil) spindle() {
	p.stalk(at(30, 2), at(30, 14))
	for _, x := range []float64{-12, 12, 0} {
		p.egg(at(30+x, 28), 9, 12, "pink")
	}
	p.ball(at(26, 44), 4.5, "orange")
	p.ball(at(36, 45), 4.5, "orange")
}

func (p *pencil) bracts() {
	for _, s := range []float64{-1, 1, 0} {
		x := 30 + 13*s
		p.blob(
			"tan",
			at(x, 10),
			at(x-9, 22),
			at(x-12, 40),
			at(x-5, 46),
			at(x-2, 54),
			at(x+2, 45),
			at(x+6, 54),
			at(x+8, 42),
			at(x+12, 34),
			at(x+8, 20),
		)
		p.line("thin", at(x, 12), at(x, 30), at(x-1, 50))
	}
	p.egg(at(30, 24), 7, 8, "brown")
}
