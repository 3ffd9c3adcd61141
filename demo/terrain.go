package demo

import (
	"fmt"
	"math"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geojson"
	"github.com/paulmach/orb/planar"
)

// metres is a place east and north of the forest's origin.
type metres = [2]float64

// frame turns metres into degrees about an origin: the sphere of WGS 84's
// equatorial radius, which is good to a metre over a few kilometres.
type frame struct {
	Lon float64 `yaml:"lon"`
	Lat float64 `yaml:"lat"`
}

const earthRadius = 6378137

func (f frame) point(m metres) orb.Point {
	lat := f.Lat + m[1]/earthRadius*180/math.Pi
	lon := f.Lon + m[0]/(earthRadius*math.Cos(f.Lat*math.Pi/180))*180/math.Pi
	return orb.Point{round(lon, 1e6), round(lat, 1e6)}
}

func (f frame) line(ms []metres) orb.LineString {
	out := make(orb.LineString, len(ms))
	for i, m := range ms {
		out[i] = f.point(m)
	}
	return out
}

// polygon closes the ring.
func (f frame) polygon(ms []metres) orb.Polygon {
	ring := orb.Ring(f.line(ms))
	if !ring.Closed() {
		ring = append(ring, ring[0])
	}
	return orb.Polygon{ring}
}

func round(x, per float64) float64 { return math.Round(x*per) / per }

// terrain is an invented valley: it falls to the creeks and down along them.
type terrain struct{ creeks [][]metres }

// height is the ground's height in metres above the sea.
func (t terrain) height(m metres) float64 {
	valley := 1.0
	for i, creek := range t.creeks {
		width := 230.0 / float64(1+i)
		d := distance(m, creek)
		valley *= 1 - math.Exp(-d*d/(width*width))
	}
	knolls := 6*math.Sin(m[0]/95)*math.Cos(m[1]/120) + 5*math.Cos((m[0]+m[1])/170)
	return 242 - 0.008*m[0] + valley*(92+knolls)
}

// distance is from a place to the nearest part of a line.
func distance(m metres, line []metres) float64 {
	best := math.Inf(1)
	for i := 1; i < len(line); i++ {
		a, b := line[i-1], line[i]
		dx, dy := b[0]-a[0], b[1]-a[1]
		along := max(0, min(1, ((m[0]-a[0])*dx+(m[1]-a[1])*dy)/(dx*dx+dy*dy)))
		best = min(best, math.Hypot(m[0]-a[0]-along*dx, m[1]-a[1]-along*dy))
	}
	return best
}

const (
	contourStep = 10.0 // metres of height between contours
	cell        = 20.0 // metres between the points that height is worked out at
)

// contours draws the lines of equal height over a box by marching squares
// (Lorensen and Cline's method in two dimensions): the crossings of each cell's
// edges are joined, and the pieces kept as one feature for each height.
func (t terrain) contours(f frame, east, north float64) *geojson.FeatureCollection {
	lines := map[float64]orb.MultiLineString{}
	var levels []float64
	for level := 200.0; level < 400; level += contourStep {
		levels = append(levels, level)
	}
	for x := 0.0; x < east; x += cell {
		for y := 0.0; y < north; y += cell {
			corners := [4]metres{{x, y}, {x + cell, y}, {x + cell, y + cell}, {x, y + cell}}
			for _, level := range levels {
				if piece := t.cross(corners, level); len(piece) == 2 {
					lines[level] = append(lines[level], f.line(piece))
				}
			}
		}
	}
	fc := geojson.NewFeatureCollection()
	for _, level := range levels {
		if len(lines[level]) > 0 {
			feature := geojson.NewFeature(lines[level])
			feature.Properties = geojson.Properties{"kind": "contour", "elevation_m": level}
			fc.Append(feature)
		}
	}
	return fc
}

// cross gives where a cell's edges cross a level: none, or two places. Of the
// rare saddle only the first two are taken.
func (t terrain) cross(corners [4]metres, level float64) (at []metres) {
	for i := range corners {
		a, b := corners[i], corners[(i+1)%4]
		ha, hb := t.height(a)-level, t.height(b)-level
		if (ha < 0) != (hb < 0) && len(at) < 2 {
			s := ha / (ha - hb)
			at = append(at, metres{a[0] + s*(b[0]-a[0]), a[1] + s*(b[1]-a[1])})
		}
	}
	return at
}

// terrain draws what the map shows beside stands and trees.
func (w *woods) terrain() *geojson.FeatureCollection {
	t := terrain{[][]metres{w.Creek, w.SideCreek}}
	fc := t.contours(w.Origin, 1500, 1060)
	add := func(g orb.Geometry, kind, name string) {
		feature := geojson.NewFeature(g)
		feature.Properties = geojson.Properties{"kind": kind, "name": name}
		fc.Append(feature)
	}
	add(w.Origin.line(w.Creek), "stream", "Lantern Creek")
	add(w.Origin.line(w.SideCreek), "stream", "Cove Branch")
	add(w.Origin.line(w.Track), "track", "Pump house track")
	add(w.Origin.polygon(w.PumpHouse), "building", "Pump house")
	for _, f := range w.Fords {
		add(w.Origin.point(f), "ford", "Ford")
	}
	for _, g := range w.Gates {
		add(w.Origin.point(g.At), "gate", g.Name)
	}
	return fc
}

// within draws a place in a stand.
func (s *stand) within(random func() float64) (metres, error) {
	west, south, east, north := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	ring := make(orb.Ring, 0, len(s.Boundary)+1)
	for _, m := range s.Boundary {
		west, south, east, north = min(west, m[0]), min(south, m[1]), max(east, m[0]), max(north, m[1])
		ring = append(ring, m)
	}
	ring = append(ring, ring[0])
	for range 1000 {
		m := metres{west + random()*(east-west), south + random()*(north-south)}
		if planar.RingContains(ring, m) {
			return m, nil
		}
	}
	return metres{}, fmt.Errorf("stand %s has no room for a tree", s.Name)
}
