package bark

import (
	"math"

	"palethicket/core/plate"
)

// smallScales curl at their lower and outer edges, one over the next, as flaking paint.
func (p *piece) smallScales() func(s, y float64) spot {
	w := plate.Clamp(p.width, 10, 36)
	run := plate.Clamp(p.tree.Build.PlateRun, w, 2.2*w)
	lift := plate.Clamp(p.depth, 3, 8)
	return func(s, y float64) spot {
		wx, wy := 0.4*p.n.rough(s/17, y/15, 2), 0.4*p.n.rough(s/15+6, y/19, 2)
		c := p.n.cells(s/w+wx, y/run+wy, 1, false)
		body := plate.Smooth(0, 0.05, c.edge)
		curl := plate.Smooth(-0.05, 0.5, c.dy+0.5*(c.chance-0.5)*c.dx) // towards the lower edge
		side := plate.Smooth(0.2, 0.6, math.Abs(c.dx))
		h := body*(3.4*c.chance+lift*(curl*curl+0.55*side*side)) + 0.35*p.n.rough(s/4, y/5, 2)
		return spot{height: h, under: 0.6*(1-body) + 0.55*plate.Smooth(0.72, 0.85, c.chance)*curl,
			tone: 0.45*(c.chance-0.5) + 0.22*curl - 0.1}
	}
}

// oneEdgePlates are long and shaggy, and lift along one side.
func (p *piece) oneEdgePlates() func(s, y float64) spot {
	w, run := 1.15*plate.Clamp(p.width, 14, 60), 1.2*plate.Clamp(p.run, 70, 260)
	lift := plate.Clamp(0.9*p.depth, 4, 14)
	return func(s, y float64) spot {
		fray := 0.1 * p.n.smooth(s/5, y/11)
		c := p.n.cells(s/w+0.34*p.n.smooth(s/50, y/80)+fray, y/run+0.3*p.n.rough(s/16, y/60, 2), 1, false)
		body := plate.Smooth(0, 0.06, c.edge)
		side := 1.0
		if c.chance < 0.25 {
			side = -1
		}
		up := plate.Smooth(-0.2, 0.6, side*c.dx)
		end := plate.Smooth(0.3, 0.7, c.dy)
		fibre := p.n.smooth(s/1.6, y/22) + 0.5*p.n.smooth(s/3.3+8, y/9)
		h := body*(1+lift*(0.85*up*up+0.4*end*end)) + 0.34*fibre + 0.6*p.n.rough(s/8, y/16, 2)
		return spot{height: h, under: 0.7*(1-body) + 0.3*plate.Smooth(0.5, 0, up), tone: 0.3*(up-0.4) + 0.14*fibre + 0.25*(c.chance-0.5)}
	}
}

// longLoosePlates are stiff, and stand off at their ends.
func (p *piece) longLoosePlates() func(s, y float64) spot {
	w, run := 1.35*plate.Clamp(p.width, 16, 36), 0.72*plate.Clamp(p.run, 110, 320)
	lift := 13 + 11*p.grown
	return func(s, y float64) spot {
		c := p.n.cells(s/w+0.24*p.n.smooth(s/80, y/150)+0.06*p.n.smooth(s/6, y/30), y/run+0.2*p.n.rough(s/13, y/80, 2), 1, false)
		body := plate.Smooth(0, 0.045, c.edge)
		low, high := plate.Smooth(0.02, 0.62, c.dy), plate.Smooth(0.2, 0.66, -c.dy)
		edge := plate.Smooth(0.1, 0.55, math.Abs(c.dx))
		fibre := p.n.smooth(s/1.4, y/50) + 0.7*p.n.smooth(s/4+9, y/110)
		h := body*(2+8*c.chance+lift*(low*low+0.3*high*high)*(0.45+1.1*c.chance)+3.5*edge*edge) + 0.4*fibre
		return spot{height: h, under: 0.9*(1-body) + 0.3*high, tone: 0.2*fibre + 0.6*(c.chance-0.5) + 0.3*low*low - 0.15*high}
	}
}

// shreddingStrips are narrow and frayed, their ends loose.
func (p *piece) shreddingStrips() func(s, y float64) spot {
	w, run := plate.Clamp(0.62*p.width, 6, 16), 0.8*plate.Clamp(p.run, 60, 240)
	return func(s, y float64) spot {
		c := p.n.cells(s/w+0.5*p.n.smooth(s/40, y/100)+0.12*p.n.smooth(s/4, y/24), y/run+0.4*p.n.rough(s/7, y/60, 2), 1, false)
		body := plate.Smooth(0, 0.1, c.edge)
		low := plate.Smooth(0.05, 0.6, c.dy)
		fibre := p.n.smooth(s/1.2, y/26)
		h := body*(0.8+2.4*c.chance+5*low*low) + 0.35*fibre
		return spot{height: h, under: 0.55 * (1 - body), tone: 0.16*fibre + 0.65*(c.chance-0.5) + 0.25*low*low}
	}
}

// mottledPatches flake off in turn: what stayed longest is darkest, and below all is pale.
func (p *piece) mottledPatches() func(s, y float64) spot {
	stays := map[string]float64{Base: 0.62, Breast: 0.3, Upper: 0.06}[p.zone]
	stays += 0.12 * (p.grown - 0.5)
	return func(s, y float64) spot {
		wx, wy := 0.34*p.n.rough(s/40, y/34, 3), 0.34*p.n.rough(s/36+9, y/40, 3)
		low := p.n.cells(s/66+wx, y/84+wy, 1, false)
		out := spot{pale: 1, tone: 0.3 + 0.1*p.n.rough(s/60, y/60, 2)}
		switch {
		case low.chance < 0.3: // a sheet that is greenish yet
			out = spot{height: 0.9, under: 0.95, tone: 0.5 + 0.3*low.chance}
		case low.chance < 0.55:
			out = spot{height: 0.5, under: 0.6, tone: 0.95 - 0.3*low.chance}
		}
		top := p.n.cells(s/34+wx*1.4+40, y/44+wy*1.4, 1, false)
		if top.chance < stays+0.25*p.n.smooth(s/90, y/120) { // flakes that still hold
			out = spot{height: 2.2 + top.chance, tone: 0.5*(top.chance/0.5-0.5) + 0.15*p.n.rough(s/7, y/9, 2)}
		}
		out.height += 0.2*p.n.rough(s/9, y/9, 2) + 0.5*p.n.rough(s/80, y/80, 2)
		return out
	}
}

// wartyRidges are corky fins and warts, in layers, on smooth bark.
func (p *piece) wartyRidges() func(s, y float64) spot {
	share := 0.42 + 0.4*p.grown
	return func(s, y float64) spot {
		out := p.skin(s, y)
		out.tone *= 0.5
		best, frayed := 0.0, 0.3*p.n.smooth(s/4, y/6)
		for k, size := range []float64{21, 11} {
			off := float64(k) * 57
			c := p.n.cells(s/size+off+0.3*p.n.smooth(s/12, y/20), y/(3.1*size)+off, 0.95, false)
			if c.chance > share {
				continue
			}
			long := 0.16 + 0.34*math.Mod(c.chance*37, 1)
			if r := plate.Hypot(c.dx/0.26, c.dy/long) + frayed; r < 1 {
				best = max(best, (1-r*r)*(10-4*float64(k))*(0.45+0.7*c.chance/share))
			}
		}
		if best > 0.4 {
			step := math.Floor(best/1.3) * 1.3 // it grows in layers
			out.height += step + 0.35*plate.Smooth(0.3, 1, (best-step)/1.3) + 0.3*p.n.smooth(s/2, y/2)
			out.tone += 0.2*p.n.smooth(s/3, y/3) - 0.05
			out.under = 0.4 * (1 - plate.Smooth(0, 0.45, (best-step)/1.3))
		}
		return out
	}
}

// sinewy is smooth, and rippled as muscle is under skin.
func (p *piece) sinewy() func(s, y float64) spot {
	wave := plate.Clamp(p.radius, 45, 90) * 0.75
	return func(s, y float64) spot {
		out := p.skin(s, y)
		a := s/wave + 0.8*p.n.smooth(s/110, y/130) + 0.0006*y
		crest := 1 - math.Abs(math.Sin(math.Pi*a))
		crest = 1 - crest*crest // round backs, narrow hollows
		b := 0.5 + 0.5*math.Sin(2*math.Pi*(s/(0.47*wave)+0.6*p.n.smooth(s/60+5, y/200)))
		out.height += wave * (0.17*crest + 0.035*b)
		out.tone = 0.6*out.tone + 0.15*(crest-0.5)
		return out
	}
}
