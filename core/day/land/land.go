// Package land says how one walks over a tract: how high it lies, by its contours, and where
// its streams can be crossed.
package land

import (
	"encoding/json"
	"fmt"
	"math"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geojson"

	"palethicket/core/day/tour"
	"palethicket/core/stand/revisit"
)

// Land is what the maps of tracts say that matters to who walks.
type Land struct {
	Contours int    // places whose height is known
	Gates    []Gate // where one can come in
	origin   orb.Point
	scale    float64 // of a degree of longitude beside one of latitude
	at       []point // of contours
	high     []float64
	streams  [][2]point
	over     []point // where streams are crossed or gone round
	overAt   []orb.Point
	ways     [][]float64 // metres between those, over others where need be
}

// Gate is a place where one can come in.
type Gate struct {
	Name string    `json:"name"`
	At   orb.Point `json:"at"`
}

// point is a place in metres from the origin.
type point struct{ x, y float64 }

// Read takes in the terrain of tracts: GeoJSON feature collections whose features say by
// their property kind what they are: contours with their elevation_m, streams as lines, tracks
// and paths as lines, fords and gates as points. What is of another kind is nothing to walk by.
func Read(terrains []json.RawMessage) (*Land, error) {
	l := &Land{scale: 1}
	var paths [][2]point
	var ends, fords []point
	for _, text := range terrains {
		var fc geojson.FeatureCollection
		if err := json.Unmarshal(text, &fc); err != nil {
			return nil, fmt.Errorf("reading the terrain: %w", err)
		}
		for _, f := range fc.Features {
			kind, _ := f.Properties["kind"].(string)
			name, _ := f.Properties["name"].(string)
			high, levelled := f.Properties["elevation_m"].(float64)
			l.begin(f.Geometry)
			switch kind {
			case "contour":
				for _, p := range places(f.Geometry) {
					if levelled {
						l.at, l.high = append(l.at, l.metres(p)), append(l.high, high)
					}
				}
			case "stream":
				for _, line := range lines(f.Geometry) {
					pieces := l.pieces(line)
					l.streams = append(l.streams, pieces...)
					ends = append(ends, beyond(pieces)...)
				}
			case "track", "path":
				for _, line := range lines(f.Geometry) {
					paths = append(paths, l.pieces(line)...)
				}
			case "ford", "bridge":
				if p, ok := f.Geometry.(orb.Point); ok {
					fords = append(fords, l.metres(p))
				}
			case "gate":
				if p, ok := f.Geometry.(orb.Point); ok {
					l.Gates = append(l.Gates, Gate{name, p})
				}
			}
		}
	}
	l.Contours = len(l.at)
	l.cross(paths, fords, ends)
	return l, nil
}

// begin takes the first place as the origin.
func (l *Land) begin(g orb.Geometry) {
	if l.origin == (orb.Point{}) && g != nil {
		l.origin = g.Bound().Center()
		l.scale = math.Cos(l.origin[1] * math.Pi / 180)
	}
}

const metresPerDegree = 111_195 // of latitude, on the sphere that ways are measured on

func (l *Land) metres(p orb.Point) point {
	return point{(p[0] - l.origin[0]) * metresPerDegree * l.scale, (p[1] - l.origin[1]) * metresPerDegree}
}

func (l *Land) degrees(p point) orb.Point {
	return orb.Point{l.origin[0] + p.x/metresPerDegree/l.scale, l.origin[1] + p.y/metresPerDegree}
}

func lines(g orb.Geometry) []orb.LineString {
	switch g := g.(type) {
	case orb.LineString:
		return []orb.LineString{g}
	case orb.MultiLineString:
		return g
	}
	return nil
}

func places(g orb.Geometry) (out []orb.Point) {
	for _, l := range lines(g) {
		out = append(out, l...)
	}
	return out
}

func (l *Land) pieces(line orb.LineString) (out [][2]point) {
	for i := 1; i < len(line); i++ {
		out = append(out, [2]point{l.metres(line[i-1]), l.metres(line[i])})
	}
	return out
}

// roundEnd is how far from a stream's end one goes round it, and ashore how far from the
// middle of a ford its banks lie.
const roundEnd, ashore = 5.0, 3.0

// beyond gives places a little beyond both ends of a line.
func beyond(pieces [][2]point) []point {
	if len(pieces) == 0 {
		return nil
	}
	first, last := pieces[0], pieces[len(pieces)-1]
	return []point{off(first[0], first[1], -roundEnd), off(last[1], last[0], -roundEnd)}
}

// off is a place so far from a towards b.
func off(a, b point, far float64) point {
	d := math.Hypot(b.x-a.x, b.y-a.y)
	if d == 0 {
		return a
	}
	return point{a.x + (b.x-a.x)/d*far, a.y + (b.y-a.y)/d*far}
}

// cross finds where streams can be crossed, and how far it is from each such place to the others.
func (l *Land) cross(paths [][2]point, fords, ends []point) {
	type crossing struct{ a, b point } // its two banks; of an end of a stream one place
	var all []crossing
	bridge := func(at point, s [2]point) {
		dx, dy := s[1].x-s[0].x, s[1].y-s[0].y
		d := math.Hypot(dx, dy)
		if d == 0 {
			return
		}
		all = append(all, crossing{point{at.x - dy/d*ashore, at.y + dx/d*ashore}, point{at.x + dy/d*ashore, at.y - dx/d*ashore}})
	}
	for _, s := range l.streams {
		for _, p := range paths {
			if at, ok := meet(s, p); ok {
				bridge(at, s)
			}
		}
	}
	for _, f := range fords {
		if s, ok := l.nearestStream(f); ok {
			bridge(f, s)
		}
	}
	for _, e := range ends {
		all = append(all, crossing{e, e})
	}
	for _, c := range all {
		l.over = append(l.over, c.a, c.b)
	}
	l.join()
}

// join finds how far it is from each place over streams to the others, by others where need be.
func (l *Land) join() {
	n := len(l.over)
	l.ways = make([][]float64, n)
	for i := range l.ways {
		l.overAt = append(l.overAt, l.degrees(l.over[i]))
		l.ways[i] = make([]float64, n)
		for j := range l.ways[i] {
			l.ways[i][j] = math.Inf(1)
			if i == j || i/2 == j/2 || !l.blocked(l.over[i], l.over[j]) {
				l.ways[i][j] = apart(l.over[i], l.over[j])
			}
		}
	}
	for k := range n { // Floyd and Warshall
		for i := range n {
			for j := range n {
				l.ways[i][j] = min(l.ways[i][j], l.ways[i][k]+l.ways[k][j])
			}
		}
	}
}

func apart(a, b point) float64 { return math.Hypot(a.x-b.x, a.y-b.y) }

// fordNear is how far from a stream a ford may be drawn.
const fordNear = 15.0

func (l *Land) nearestStream(p point) (at [2]point, ok bool) {
	best := fordNear
	for _, s := range l.streams {
		dx, dy := s[1].x-s[0].x, s[1].y-s[0].y
		along := max(0, min(1, ((p.x-s[0].x)*dx+(p.y-s[0].y)*dy)/max(dx*dx+dy*dy, 1e-9)))
		if d := apart(p, point{s[0].x + along*dx, s[0].y + along*dy}); d < best {
			best, at, ok = d, s, true
		}
	}
	return at, ok
}

// meet is where two pieces cross.
func meet(a, b [2]point) (point, bool) {
	rx, ry, sx, sy := a[1].x-a[0].x, a[1].y-a[0].y, b[1].x-b[0].x, b[1].y-b[0].y
	cross := rx*sy - ry*sx
	if cross == 0 {
		return point{}, false
	}
	qx, qy := b[0].x-a[0].x, b[0].y-a[0].y
	t, u := (qx*sy-qy*sx)/cross, (qx*ry-qy*rx)/cross
	if t < 0 || t > 1 || u < 0 || u > 1 {
		return point{}, false
	}
	return point{a[0].x + t*rx, a[0].y + t*ry}, true
}

// blocked says whether a stream lies between two places.
func (l *Land) blocked(a, b point) bool {
	for _, s := range l.streams {
		if max(s[0].x, s[1].x) < min(a.x, b.x) || min(s[0].x, s[1].x) > max(a.x, b.x) ||
			max(s[0].y, s[1].y) < min(a.y, b.y) || min(s[0].y, s[1].y) > max(a.y, b.y) {
			continue
		}
		if _, ok := meet([2]point{a, b}, s); ok {
			return true
		}
	}
	return false
}

// Height is how high a place lies, in metres: between the two contours nearest to it, by how
// near each is; 0 where there are none.
func (l *Land) Height(at orb.Point) float64 {
	p := l.metres(at)
	one, other := -1, -1
	for i := range l.at {
		if one < 0 || apart(l.at[i], p) < apart(l.at[one], p) {
			one = i
		}
	}
	if one < 0 {
		return 0
	}
	for i := range l.at {
		if l.high[i] != l.high[one] && (other < 0 || apart(l.at[i], p) < apart(l.at[other], p)) {
			other = i
		}
	}
	if other < 0 {
		return l.high[one]
	}
	a, z := apart(l.at[one], p), apart(l.at[other], p)
	return (l.high[one]*z + l.high[other]*a) / max(a+z, 1e-12)
}

// Places are places that one walks between, with what is known of each.
type Places struct {
	land  *Land
	snow  float64
	at    []orb.Point
	here  []point
	high  []float64
	reach [][]float64 // metres from each to each place over streams
}

// Between gets places ready; snow is how much slower it makes one, 1 not at all.
func (l *Land) Between(at []orb.Point, snow float64) *Places {
	p := &Places{land: l, snow: snow, at: at}
	for _, a := range at {
		here := l.metres(a)
		reach := make([]float64, len(l.over))
		for i, o := range l.over {
			if reach[i] = math.Inf(1); !l.blocked(here, o) {
				reach[i] = apart(here, o)
			}
		}
		p.here, p.high, p.reach = append(p.here, here), append(p.high, l.Height(a)), append(p.reach, reach)
	}
	return p
}

// Way is how one gets from one place to another.
type Way struct {
	Metres  float64 // +Inf: there is no way over the streams
	Minutes float64
	Over    bool // a stream is crossed or gone round
	First   revisit.Way
}

// Way gives the way between two of the places: straight, or by where streams can be crossed.
func (p *Places) Way(from, to int) Way {
	w := Way{First: revisit.WayTo(p.at[from], p.at[to])}
	w.Metres = w.First.Metres
	if p.land.blocked(p.here[from], p.here[to]) {
		w.Over, w.Metres = true, math.Inf(1)
		for i, a := range p.reach[from] {
			if math.IsInf(a, 1) {
				continue
			}
			for j, b := range p.reach[to] {
				if long := a + p.land.ways[i][j] + b; long < w.Metres {
					w.Metres, w.First = long, revisit.WayTo(p.at[from], p.land.overAt[i])
				}
			}
		}
	}
	w.Minutes = tour.Minutes(w.Metres, p.high[to]-p.high[from], tour.Footing{Snow: p.snow})
	return w
}
