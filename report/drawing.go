package report

import (
	"encoding/json"
	"math"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geojson"

	"palethicket/book"
)

// drawing is the map of a report, laid out in a box: y runs down.
type drawing struct {
	Width, Height float64
	Lines         []drawnLine
	Dots          []drawnDot
	Labels        []drawnLabel
}

type point struct{ X, Y float64 }

type drawnLine struct {
	Kind   string // contour, stream, track, building, stand or tract
	Points []point
}

type drawnDot struct {
	point
	Status string
}

type drawnLabel struct {
	point
	Text string
}

// draw lays out what stands in the report: the terrain of its tract, its stands
// and its trees. It gives nil where nothing has a place.
func draw(r *book.Report, width, most float64) *drawing {
	var lines []geoLine
	for _, t := range r.Map.Tracts {
		if r.Tract == "" || t.Tract == r.Tract {
			lines = append(lines, features(t.Terrain)...)
			lines = append(lines, outline("tract", "", t.Boundary)...)
		}
	}
	for _, s := range r.Map.Stands {
		if r.Tract == "" || s.Tract == r.Tract {
			lines = append(lines, outline("stand", s.Name, s.Boundary)...)
		}
	}
	bound := orb.Bound{Min: orb.Point{1, 1}, Max: orb.Point{-1, -1}} // empty
	for _, l := range lines {
		bound = bound.Union(l.at.Bound())
	}
	for _, d := range r.Dots {
		bound = bound.Extend(orb.Point{d.Lon, d.Lat})
	}
	if bound.IsEmpty() {
		return nil
	}
	return layOut(r, lines, bound, width, most)
}

// geoLine is a line in degrees.
type geoLine struct {
	kind, label string
	at          orb.LineString
}

func layOut(r *book.Report, lines []geoLine, bound orb.Bound, width, most float64) *drawing {
	squeeze := math.Cos(bound.Center().Lat() * math.Pi / 180)
	east, north := (bound.Right()-bound.Left())*squeeze, bound.Top()-bound.Bottom()
	scale := width / max(east, 1e-6)
	if north*scale > most {
		scale = most / north
	}
	to := func(p orb.Point) point {
		return point{(p.Lon() - bound.Left()) * squeeze * scale, (bound.Top() - p.Lat()) * scale}
	}
	d := &drawing{Width: east * scale, Height: north * scale}
	for _, l := range lines {
		line := drawnLine{Kind: l.kind}
		for _, p := range l.at {
			line.Points = append(line.Points, to(p))
		}
		d.Lines = append(d.Lines, line)
		if l.label != "" {
			d.Labels = append(d.Labels, drawnLabel{to(l.at.Bound().Center()), l.label})
		}
	}
	for _, dot := range r.Dots {
		d.Dots = append(d.Dots, drawnDot{to(orb.Point{dot.Lon, dot.Lat}), dot.Status})
	}
	return d
}

// features takes the lines out of a tract's terrain.
func features(terrain json.RawMessage) (lines []geoLine) {
	if terrain == nil {
		return nil
	}
	fc, err := geojson.UnmarshalFeatureCollection(terrain)
	if err != nil {
		return nil // it was checked when it was put in
	}
	for _, f := range fc.Features {
		kind, _ := f.Properties["kind"].(string)
		for _, l := range lineStrings(f.Geometry) {
			lines = append(lines, geoLine{kind: kind, at: l})
		}
	}
	return lines
}

func outline(kind, label string, boundary json.RawMessage) (lines []geoLine) {
	if boundary == nil {
		return nil
	}
	g, err := geojson.UnmarshalGeometry(boundary)
	if err != nil {
		return nil
	}
	for i, l := range lineStrings(g.Geometry()) {
		if i > 0 {
			label = ""
		}
		lines = append(lines, geoLine{kind, label, l})
	}
	return lines
}

// lineStrings are the lines that a geometry is drawn with.
func lineStrings(g orb.Geometry) (out []orb.LineString) {
	switch g := g.(type) {
	case orb.LineString:
		return []orb.LineString{g}
	case orb.MultiLineString:
		return g
	case orb.Polygon:
		for _, ring := range g {
			out = append(out, orb.LineString(ring))
		}
	case orb.MultiPolygon:
		for _, p := range g {
			out = append(out, lineStrings(p)...)
		}
	}
	return out
}
