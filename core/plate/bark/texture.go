package bark

import (
	"math"

	"palethicket/core/plate"
)

// texture gives the height field of a texture.
func (p *piece) texture(state string) func(s, y float64) spot {
	make := map[string]func() func(s, y float64) spot{
		"smooth":            p.smooth,
		"dash-banded":       p.dashBanded,
		"papery-curls":      p.paperyCurls,
		"shredding-strips":  p.shreddingStrips,
		"long-loose-plates": p.longLoosePlates,
		"one-edge-plates":   p.oneEdgePlates,
		"small-scales":      p.smallScales,
		"square-blocks":     p.squareBlocks,
		"mottled-patches":   p.mottledPatches,
		"mesh-ridges":       p.meshRidges,
		"long-ridges":       func() func(s, y float64) spot { return p.ridges(false) },
		"flat-ridges":       func() func(s, y float64) spot { return p.ridges(true) },
		"rough-furrows":     p.roughFurrows,
		"warty-ridges":      p.wartyRidges,
		"sinewy":            p.sinewy,
	}[state]
	if make == nil {
		return p.smooth()
	}
	return make()
}

// grain is what all bark has: fine unevenness, drawn out along the trunk.
func (p *piece) grain(s, y, strength float64) float64 {
	return strength * (p.n.smooth(s/1.1, y/3.4) + 0.6*p.n.smooth(s/2.7+40, y/9))
}

// skin is smooth bark: nearly even, with faint level wrinkles and blotches.
func (p *piece) skin(s, y float64) spot {
	blotch := p.n.rough(s/46+7, y/38-3, 2)
	h := 1.4*p.n.rough(s/60, y/90, 2) + 0.07*p.n.smooth(s/1.6, y/1.6) + 0.16*p.n.smooth(s/22+9, y/2.6)
	tone := 0.5*blotch + 0.12*p.n.smooth(s/30+90, y/4)
	out := spot{height: h, tone: tone}
	out.tone += 0.75 * plate.Smooth(0.2, 0.5, p.n.rough(s/30+31, y/24+55, 2)) // lichen
	return out
}

func (p *piece) smooth() func(s, y float64) spot {
	dots := p.tree.Age == "young"
	return func(s, y float64) spot {
		out := p.skin(s, y)
		if dots {
			c := p.n.cells(s/9, y/11, 0.9, false)
			if c.chance < 0.5 && c.dx*c.dx+2*c.dy*c.dy < 0.012 {
				out.height += 0.6
				out.tone += 0.5
			}
		}
		return out
	}
}

// dash is the height of level dashes, 0 between them: each in a cell of its own.
func (p *piece) dash(s, y, wide, high, share float64) float64 {
	j := math.Floor(y / high)
	best := 0.0
	for _, k := range []float64{j - 1, j, j + 1} {
		shift := p.n.at(int32(k), 77) * wide
		i := math.Floor((s + shift) / wide)
		for _, l := range []float64{i - 1, i, i + 1} {
			u := p.n.at(int32(l), int32(k))
			if u > share {
				continue
			}
			middle := (l+0.5)*wide - shift + 0.3*wide*(u/share-0.5)
			level := (k+0.5)*high + high*(p.n.at(int32(k), int32(l)+500)-0.5)
			half := wide * (0.12 + 0.34*p.n.at(int32(l)+90, int32(k)))
			thick := 0.7 + 1.1*p.n.at(int32(l), int32(k)+900)
			dx, dy := math.Abs(s-middle)/half, math.Abs(y-level+0.4*p.n.smooth(s/9, k))/thick
			if dx < 1 && dy < 1 {
				best = max(best, (1-dx*dx)*(1-dy*dy))
			}
		}
	}
	return best
}

func (p *piece) dashBanded() func(s, y float64) spot {
	return func(s, y float64) spot {
		out := p.skin(s, y)
		out.tone = 0.5*out.tone + 0.35*p.n.smooth(s/120, y/7)
		if d := p.dash(s, y, 46, 11, 0.5); d > 0.15 {
			out.height += 1.1 * d
			out.pale, out.tone = 1, -0.2+0.3*d
		}
		return out
	}
}

// paperyCurls is a white skin with level dashes that tears level: where a sheet has gone,
// the colour under it shows, and its edge is rolled up.
func (p *piece) paperyCurls() func(s, y float64) spot {
	gone := 0.62 - 0.1*p.grown
	return func(s, y float64) spot {
		out := spot{height: 0.8*p.n.rough(s/70, y/60, 2) + 0.12*p.n.smooth(s/26, y/1.8), tone: 0.3*p.n.rough(s/50, y/14, 2) + 0.12}
		sheet := 0.5 + 0.75*p.n.rough(s/115, y/30+0.04*p.n.smooth(s/5, y/9), 3)
		switch {
		case sheet > gone:
			out.under = plate.Clamp(0.55+4*(sheet-gone), 0.55, 1)
			out.height -= 1.2
			out.tone += 0.1 * p.n.smooth(s/40, y/2)
		case sheet > gone-0.07: // the roll
			t := (sheet - gone + 0.07) / 0.07
			out.height += 7 * math.Sin(math.Pi*t)
			out.under = 0.35 * plate.Smooth(0.55, 1, t)
			out.tone += 0.25
		}
		if d := p.dash(s, y, 40, 13, 0.42); d > 0.2 && sheet < gone-0.07 {
			out.pale, out.height, out.tone = 1, out.height+0.7*d, 0.1
		}
		return out
	}
}

// meshRidges are narrow ridges that meet in a net of diamonds.
func (p *piece) meshRidges() func(s, y float64) spot {
	w, run := 1.35*p.width, 1.3*plate.Clamp(p.run, 40, 160)
	return func(s, y float64) spot {
		warp := 0.2*p.n.smooth(s/45, y/60) + 0.05*p.n.smooth(s/6, y/9)
		c := p.n.cells(s/w+warp, y/run+0.15*p.n.smooth(s/30+5, y/50), 0.7, true)
		e := c.edge + 0.06*p.n.smooth(s/3.2, y/6)
		ridge := 1 - plate.Smooth(0.2, 0.6, e)
		crack := plate.Smooth(0.55, 0.9, p.n.smooth(s/9+c.chance*40, y/4.2)) * ridge // ridges crack across
		h := p.depth*(ridge-0.22*crack) + p.grain(s, y, 0.55)
		return spot{height: h, under: 0.95*(1-plate.Smooth(0.05, 0.55, ridge)) + 0.3*crack,
			tone: 0.3*ridge - 0.12 + 0.2*p.n.rough(s/60, y/90, 2)}
	}
}

// ridges run far before they join; flat ones have level tops and shallow furrows.
func (p *piece) ridges(flat bool) func(s, y float64) spot {
	w, run := 1.1*p.width, 1.7*plate.Clamp(p.run, 60, 420)
	if flat {
		w *= 1.25
	}
	shine := p.tree.Shows.Seen("bark.pale-runs")
	return func(s, y float64) spot {
		warp := 0.34*p.n.smooth(s/70, y/95) + 0.1*p.n.smooth(s/20+3, y/24)
		c := p.n.cells(s/w+warp, y/run, 0.8, false)
		e := c.edge + 0.07*p.n.rough(s/5, y/14, 2)
		top := plate.Smooth(0.02, 0.6, e)
		if flat {
			top = plate.Smooth(0.06, 0.3, e)
		}
		h := p.depth*top + p.grain(s, y, 0.3) + 0.12*p.depth*(c.chance-0.5)
		across := p.n.smooth(s/16+c.chance*50, y/6.5)
		if across > 0.55 && !flat {
			h -= 0.35 * p.depth * (across - 0.55)
		}
		out := spot{
			height: h,
			under:  0.92 * (1 - plate.Smooth(0.08, 0.5, top)),
			tone:   0.26*(top-0.5) + 0.2*(c.chance-0.5) + 0.12*p.n.rough(s/50, y/80, 2),
		}
		if shine { // as if planed, and silvery
			planed := plate.Smooth(0.22, 0.36, e) * plate.Smooth(-0.5, 0, p.n.smooth(s/w+20, y/240))
			out.height += (p.depth*0.98 - out.height) * planed * 0.9
			out.tone += 0.75 * planed
			out.under *= 1 - planed
		}
		return out
	}
}

// roughFurrows are deep, and their ridges broken.
func (p *piece) roughFurrows() func(s, y float64) spot {
	w, run := 1.25*p.width, plate.Clamp(p.run, 60, 170)
	return func(s, y float64) spot {
		wx := s/w + 0.34*p.n.rough(s/38, y/46, 2)
		c := p.n.cells(wx, y/run+0.3*p.n.smooth(s/26+8, y/40), 0.95, false)
		small := p.n.cells(s/(0.45*w)+30, y/(0.3*run)+0.3*p.n.smooth(s/9, y/12), 0.95, false)
		top := plate.Smooth(0, 0.55, c.edge)
		crack := 1 - plate.Smooth(0, 0.16, small.edge)
		h := p.depth*(top*(0.8+0.35*small.chance)-0.22*crack*top) + p.grain(s, y, 0.5) + 0.6*p.n.rough(s/9, y/13, 2)
		return spot{height: h, under: 0.95*(1-plate.Smooth(0.06, 0.5, top)) + 0.35*crack*top,
			tone: 0.3*(top-0.5) + 0.25*(small.chance-0.5)}
	}
}

// squareBlocks are small and thick, with deep cracks between.
func (p *piece) squareBlocks() func(s, y float64) spot {
	w := plate.Clamp(p.width, 12, 36)
	return func(s, y float64) spot {
		c := p.n.cells(s/w+0.14*p.n.smooth(s/20, y/24), y/(1.12*w)+0.14*p.n.smooth(s/22+4, y/20), 0.55, false)
		top := plate.Smooth(0.02, 0.17, c.edge+0.05*p.n.smooth(s/3, y/3))
		h := p.depth*top*(0.8+0.4*c.chance) + 0.7*p.n.rough(s/5, y/6, 2)
		return spot{height: h, under: 0.9 * (1 - plate.Smooth(0.1, 0.6, top)), tone: 0.2*(top-0.5) + 0.4*(c.chance-0.5)}
	}
}
