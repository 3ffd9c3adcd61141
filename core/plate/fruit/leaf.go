package fruit

import (
	"math"

	"palethicket/core/plate"
)

// leaves are those of the litter, dry, each with how many mm the drawing shows.
var leaves = map[string]drawn{
	"pointed-lobes":            {170, func(p *pencil) { p.oak(true) }},
	"rounded-lobes":            {170, func(p *pencil) { p.oak(false) }},
	"maple-palmate":            {140, func(p *pencil) { p.palm(5, 0.42, true) }},
	"star":                     {150, func(p *pencil) { p.palm(5, 0.3, false) }},
	"four-lobed-notched":       {150, func(p *pencil) { p.tulip() }},
	"mitten-and-three-lobed":   {200, func(p *pencil) { p.mittens() }},
	"toothed-oval":             {110, func(p *pencil) { p.oval(15, 1, 26, 2.4, 0) }},
	"double-toothed-sandpaper": {130, func(p *pencil) { p.oval(17, 2, 22, 3, 0.14) }},
	"double-toothed-smooth":    {90, func(p *pencil) { p.oval(13, 2, 24, 3, 0) }},
	"heart":                    {130, func(p *pencil) { p.heart() }},
	"triangle-or-round":        {90, func(p *pencil) { p.triangle() }},
	"narrow-long":              {120, func(p *pencil) { p.oval(5, 1, 30, 1, 0) }},
	"plain-oval":               {120, func(p *pencil) { p.oval(14, 0, 0, 0, 0) }},
	"leaflets-feather":         {350, func(p *pencil) { p.feather() }},
	"leaflets-fan":             {300, func(p *pencil) { p.fan() }},
}

// along closes an outline from its left half, given from the tip to the base, as mirrored.
func (p *pencil) mirrored(smooth bool, half []plate.Point) {
	points := append([]plate.Point{}, half...)
	for i := len(half) - 1; i >= 0; i-- {
		if half[i].X != 30 {
			points = append(points, at(60-half[i].X+plate.Between(p.rng, -0.7, 0.7), half[i].Y+plate.Between(p.rng, -0.7, 0.7)))
		}
	}
	path := plate.NewPath(1)
	if smooth {
		path.Curve(points, true)
	} else {
		path.Poly(points, true)
	}
	p.c.Path(path, "", plate.Wash("yellow-brown"))
}

func (p *pencil) midrib(from, to float64) {
	p.line("", at(30, from), at(30.4, (from+to)/2), at(30, to))
}

func (p *pencil) veins(from, to float64, n int, reach func(u float64) float64) {
	path := plate.NewPath(1)
	for i := range n {
		u := (float64(i) + 0.5) / float64(n)
		y, r := to+(from-to)*u, reach(u)
		path.Move(at(30, y)).Quad(at(30-0.5*r, y-0.2*r), at(30-r, y-0.5*r)).Move(at(30, y)).Quad(at(30+0.5*r, y-0.2*r), at(30+r, y-0.5*r))
	}
	p.c.Path(path, "thin", "")
}

func (p *pencil) oak(pointed bool) {
	half := []plate.Point{at(30, 3)}
	lobes := [][2]float64{{19, 8}, {13, 19}, {15, 32}, {21, 43}}
	for i, l := range lobes {
		sinus := 24.6 - 0.6*float64(i)
		half = append(half, at(sinus, l[1]-1.5))
		if pointed {
			half = append(half, at(l[0]+4, l[1]-1), at(l[0]-3, l[1]-4), at(l[0]+1, l[1]+0.6), at(l[0]-2.5, l[1]+2), at(l[0]+3, l[1]+3.2))
		} else {
			half = append(half, at(l[0]+2, l[1]-2.6), at(l[0]-1, l[1]), at(l[0]+2, l[1]+3))
		}
		half = append(half, at(sinus+0.6, l[1]+4.6))
	}
	half = append(half, at(28, 51), at(30, 53))
	p.mirrored(!pointed, half)
	p.midrib(59, 5)
	p.veins(48, 10, 4, func(float64) float64 { return 11 })
}

// palm is one of lobes like a hand; the notches go in to a share of it.
func (p *pencil) palm(n int, notch float64, teeth bool) {
	points := []plate.Point{}
	polar := func(a, r float64) { points = append(points, at(30+r*math.Sin(a), 36-r*math.Cos(a))) }
	for i := range n {
		a := (float64(i) - float64(n-1)/2) * 1.06
		r := 30 - 6*math.Abs(float64(i)-float64(n-1)/2)
		polar(a-0.53, r*notch)
		if teeth {
			polar(a-0.3, r*0.62)
			polar(a-0.2, r*0.6)
			polar(a-0.14, r*0.82)
		}
		polar(a, r)
		if teeth {
			polar(a+0.14, r*0.82)
			polar(a+0.2, r*0.6)
			polar(a+0.3, r*0.62)
		}
		polar(a+0.53, r*notch)
	}
	points = append(points, at(30, 39))
	p.c.Path(plate.NewPath(1).Poly(points, true), "", plate.Wash("yellow-brown"))
	for i := range n {
		a := (float64(i) - float64(n-1)/2) * 1.06
		p.line("thin", at(30, 38), at(30+16*math.Sin(a), 36-16*math.Cos(a)))
	}
	p.midrib(59, 38)
}

func (p *pencil) tulip() {
	p.mirrored(false, []plate.Point{at(30, 14), at(19, 5), at(16, 20), at(18, 26), at(6, 25), at(9, 40), at(24, 45), at(30, 46)})
	p.midrib(60, 15)
	p.veins(44, 16, 3, func(float64) float64 { return 14 })
}

func (p *pencil) mittens() {
	color := plate.Wash("yellow-brown")
	three := []plate.Point{
		at(16, 4),
		at(12, 10),
		at(11, 19),
		at(5, 15),
		at(3, 20),
		at(8, 30),
		at(16, 40),
		at(24, 30),
		at(29, 20),
		at(27, 15),
		at(21, 19),
		at(20, 10),
	}
	mitten := []plate.Point{
		at(46, 18),
		at(40, 24),
		at(38, 36),
		at(31, 31),
		at(30, 36),
		at(37, 46),
		at(45, 56),
		at(53, 46),
		at(55, 32),
		at(52, 22),
	}
	p.c.Path(plate.NewPath(1).Curve(three, true), "", color)
	p.c.Path(plate.NewPath(1).Curve(mitten, true), "", color)
	p.line("thin", at(16, 46), at(16, 6))
	p.line("thin", at(45, 60), at(46, 20))
}

// oval is as wide as twice half, its edge with teeth of one or two sizes; uneven is how
// far one side of the base lies below the other.
func (p *pencil) oval(half float64, sizes, teeth int, deep, uneven float64) {
	const top, low = 4.0, 51.0
	rim := func(u, s float64) plate.Point {
		w := half * math.Pow(math.Sin(math.Pi*math.Pow(plate.Clamp(u, 0, 1), 0.85)), 0.82)
		y := top + (low-top)*u
		if s > 0 {
			y -= uneven * 20 * plate.Smooth(0.7, 1, u)
		}
		return at(30+s*w, y)
	}
	points := []plate.Point{}
	n := max(12, teeth)
	for _, s := range []float64{-1, 1} {
		for i := range n + 1 {
			u := float64(i) / float64(n)
			if s > 0 {
				u = 1 - u
			}
			q := rim(u, s)
			if teeth > 0 && i > 0 && i < n {
				out := deep * 0.35
				if sizes == 2 && i%3 == 0 {
					out = deep * 0.8
				}
				if i%2 == 0 || sizes == 2 && i%3 == 0 {
					q.X += s * out
					q.Y -= out * 0.9
				}
			}
			points = append(points, q)
		}
	}
	path := plate.NewPath(1)
	if teeth > 0 {
		path.Poly(points, true)
	} else {
		path.Curve(points, true)
	}
	p.c.Path(path, "", plate.Wash("yellow-brown"))
	p.midrib(59, top+1)
	p.veins(47, 9, 8, func(u float64) float64 { return 0.8 * half * math.Sin(math.Pi*plate.Clamp(0.15+0.75*u, 0, 1)) })
}

func (p *pencil) heart() {
	p.mirrored(true, []plate.Point{at(30, 3), at(24, 11), at(14, 20), at(8, 32), at(13, 43), at(24, 45), at(30, 41)})
	p.midrib(60, 5)
	p.veins(40, 12, 4, func(u float64) float64 { return 4 + 13*u })
}

func (p *pencil) triangle() {
	p.mirrored(true, []plate.Point{at(30, 4), at(25, 13), at(15, 26), at(9, 35), at(18, 39), at(30, 40)})
	p.line("", at(30, 40), at(33, 50), at(29, 60))
	p.veins(38, 14, 4, func(u float64) float64 { return 2 + 12*u })
	p.midrib(40, 6)
}

func (p *pencil) leaflet(foot plate.Point, angle, l, half float64) {
	f := plate.Frame{At: foot, Angle: angle}
	p.blob("yellow-brown", f.Put(0, 0), f.Put(0.35*l, -half), f.Put(0.75*l, -0.6*half), f.Put(l, 0),
		f.Put(0.75*l, 0.6*half), f.Put(0.35*l, half))
	p.line("thin", f.Put(0, 0), f.Put(0.9*l, 0))
}

func (p *pencil) feather() {
	p.stalk(at(30, 59), at(30.5, 40), at(30, 18))
	for i := range 3 {
		y := 46 - 12*float64(i)
		p.leaflet(at(30, y), -1.2, 20, 4.2)
		p.leaflet(at(30, y), 1.2, 20, 4.2)
	}
	p.leaflet(at(30, 20), 0, 18, 4.6)
}

func (p *pencil) fan() {
	p.stalk(at(30, 60), at(30, 44))
	for _, a := range []float64{-1.5, 1.5, -0.75, 0.75, 0} {
		p.leaflet(at(30, 44), a, 34-5*math.Abs(a), 6)
	}
}
