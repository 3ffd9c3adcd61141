package bark

import (
	"image"
	"math"

	"golang.org/x/image/font"
	"golang.org/x/image/font/basicfont"
	"golang.org/x/image/math/fixed"

	"palethicket/core/plate"
)

// marks puts on what does not belong to the texture: signs, and marks over branches.
func (p *piece) marks() {
	shows := p.tree.Shows
	for id, put := range map[string]func(s, y float64, at *spot){
		"bark.stripes":        p.stripe,
		"bark.speckles":       p.speckle,
		"bark.cork-ridges":    p.cork,
		"bark.resin-blisters": p.blister,
		"sign.hole-rows":      p.holeRow,
		"sign.bark-cankers":   p.canker,
	} {
		if shows.Seen(id) {
			p.everywhere(put)
		}
	}
	r := p.tree.Rand("marks" + p.zone)
	spot := func() (x, y float64) {
		half := min(p.radius*0.75, float64(p.w)*p.scale*0.4)
		return plate.Between(r, -half, half), plate.Between(r, 0.2, 0.8) * float64(p.h) * p.scale
	}
	if shows.Seen("bark.rings-target") {
		for range 2 {
			x, y := spot()
			p.around(x, y, 60, func(d float64, at *spotAt) { at.target(d) })
		}
	}
	if shows.Seen("bark.burrs") {
		for range 3 {
			x, y := spot()
			p.around(x, y, 55, func(d float64, at *spotAt) { at.height += 28 * (1 - d*d) * (1 - d*d) })
		}
	}
	if shows.Seen("sign.d-holes") {
		for range 7 {
			x, y := spot()
			p.hole(x, y, 2, true)
		}
	}
	switch mark := shows.State("bark.branch-marks", "none"); mark {
	case "chevron", "arch", "eye":
		x, y := spot()
		p.branchMark(mark, 0.6*x, y)
	}
}

type spotAt struct {
	*spot
	s, y float64
}

// around changes what lies within r of a place; d is 0 there and 1 at the rim.
func (p *piece) around(x, y, r float64, change func(d float64, at *spotAt)) {
	p.everywhere(func(s, v float64, at *spot) {
		wobble := 1 + 0.12*p.n.smooth(s/14, v/14)
		if d := plate.Hypot(s-x, v-y) / (r * wobble); d < 1 {
			change(d, &spotAt{at, s, v})
		}
	})
}

func (p *piece) stripe(s, y float64, at *spot) {
	line := math.Abs(math.Mod(math.Abs(s+6*p.n.smooth(s/40, y/70))+500, 13) - 6.5)
	if line < 1.1+0.7*p.n.smooth(s/8, y/16) {
		at.pale, at.tone = 1, 0.3
	}
}

func (p *piece) speckle(s, y float64, at *spot) {
	c := p.n.cells(s/11+60, y/13, 0.9, false)
	if c.chance < 0.7 && plate.Hypot(c.dx, 1.3*c.dy) < 0.13 {
		at.pale, at.height, at.tone = 1, at.height+0.7, 0.3
	}
}

func (p *piece) cork(s, y float64, at *spot) {
	c := p.n.cells(s/26+12, y/160, 0.8, false)
	if c.chance < 0.6 && math.Abs(c.dx) < 0.14 {
		at.height += 9 * (1 - math.Abs(c.dx)/0.14)
	}
}

func (p *piece) blister(s, y float64, at *spot) {
	c := p.n.cells(s/34+22, y/26, 0.9, false)
	if r := plate.Hypot(c.dx/0.24, c.dy/0.13); c.chance < 0.6 && r < 1 {
		at.height += 3 * (1 - r*r)
	}
}

func (p *piece) holeRow(s, y float64, at *spot) {
	level := math.Mod(y+3*p.n.smooth(s/60, 0), 62)
	along := math.Mod(s+500, 13)
	if plate.Hypot(level-31, along-6.5) < 2.4 {
		at.height, at.under, at.pale, at.tone = at.height-5, 1, 0, -0.6
	}
}

func (p *piece) canker(s, y float64, at *spot) {
	c := p.n.cells(s/24+70, y/24, 0.95, false)
	r := plate.Hypot(c.dx, c.dy) / 0.36
	if c.chance < 0.55 && r < 1 {
		at.height += 3*plate.Smooth(1, 0.75, r) - 4.5*plate.Smooth(0.7, 0.3, r)
		at.pale, at.under = 0, max(at.under, 0.8*plate.Smooth(0.7, 0.2, r))
	}
}

// target cracks in rings.
func (a *spotAt) target(d float64) {
	ring := math.Abs(math.Mod(d*5, 1) - 0.5)
	if ring < 0.16 {
		a.height -= 3
		a.under = max(a.under, 0.7)
	}
}

// hole is one that a beetle left; flat above, where it is D-shaped.
func (p *piece) hole(x, y, r float64, flat bool) {
	p.around(x, y, r+0.6, func(_ float64, at *spotAt) {
		if !flat || at.y > y-0.4*r {
			at.height, at.under, at.pale, at.tone = at.height-6, 1, 0, -0.9
		}
	})
}

// branchMark is a mark over an old branch.
func (p *piece) branchMark(kind string, x, y float64) {
	p.around(x, y, 70, func(_ float64, at *spotAt) {
		dx, dy := math.Abs(at.s-x), at.y-y
		in := false
		switch kind {
		case "chevron":
			rough := 3 * p.n.rough(at.s/7, at.y/7, 2)
			in = dx < 44+4*rough && dy > 0.8*dx-5+rough && dy < 0.8*dx+9-0.14*dx+rough
		case "arch":
			r := plate.Hypot(dx, 1.25*(dy-6)) + 3*p.n.smooth(at.s/6, at.y/6)
			in = math.Abs(r-26) < 4.5*(1-dx/60) && dy < 10 || plate.Hypot(dx/1.5, dy-4) < 7
		case "eye":
			in = math.Abs(plate.Hypot(dx/1.9, dy)-15) < 3 || plate.Hypot(dx, dy) < 6
		}
		if in {
			at.pale, at.under, at.tone = 0, 1, at.tone-1.6
			if p.tree.Shows.State("bark.texture", "") == "papery-curls" { // black on white
				at.pale, at.tone = 1, -0.2
			}
			at.height -= 1
		}
		if kind == "chevron" && plate.Hypot(dx, dy-12) < 8 { // the branch's stub
			at.height += 5
		}
	})
}

// drawThorns draws thorns that stand out of the trunk, over all else.
func (p *piece) drawThorns(img *image.Paletted) {
	if !p.tree.Shows.Seen("bark.trunk-thorns") {
		return
	}
	r := p.tree.Rand("thorns" + p.zone)
	mm := func(x float64) float64 { return x / p.scale }
	for range 5 {
		x, y := plate.Between(r, 0.25, 0.75)*float64(p.w), plate.Between(r, 0.15, 0.9)*float64(p.h)
		for range 4 {
			a := plate.Between(r, -2.6, -0.5)
			l := mm(plate.Between(r, 45, 100))
			spike(img, x+mm(5), y+mm(6), a, l, mm(4.2), shadow)
			spike(img, x, y, a, l, mm(4), thorn)
			for _, side := range []float64{-0.7, 0.7} {
				t := plate.Between(r, 0.35, 0.6)
				spike(img, x+t*l*math.Cos(a), y+t*l*math.Sin(a), a+side, 0.3*l, mm(2.4), thorn)
			}
		}
	}
}

// spike fills a slim triangle.
func spike(img *image.Paletted, x, y, angle, length, thick float64, ink uint8) {
	sin, cos := math.Sincos(angle)
	for u := 0.0; u < length; u += 0.5 {
		half := thick / 2 * (1 - u/length)
		for v := -half; v <= half; v += 0.5 {
			at := image.Pt(int(x+u*cos-v*sin), int(y+u*sin+v*cos))
			if at.In(img.Rect) {
				img.SetColorIndex(at.X, at.Y, ink)
			}
		}
	}
}

// scaleBar says how large all is: a bar of 10 cm, or 5 where the stem is slim.
func (p *piece) scaleBar(img *image.Paletted) {
	length, words := 100.0, "10 cm"
	if Width*p.scale < 200 {
		length, words = 50, "5 cm"
	}
	w := int(length / p.scale)
	fill := func(r image.Rectangle, ink uint8) {
		for y := r.Min.Y; y < r.Max.Y; y++ {
			for x := r.Min.X; x < r.Max.X; x++ {
				img.SetColorIndex(x, y, ink)
			}
		}
	}
	fill(image.Rect(6, Height-30, w+18, Height-6), white)
	fill(image.Rect(12, Height-13, 12+w, Height-10), black)
	fill(image.Rect(12, Height-17, 14, Height-6), black)
	fill(image.Rect(10+w, Height-17, 12+w, Height-6), black)
	d := font.Drawer{Dst: img, Src: image.NewUniform(img.Palette[black]), Face: basicfont.Face7x13,
		Dot: fixed.P(12+w/2-7*len(words)/2, Height-18)}
	d.DrawString(words)
}
