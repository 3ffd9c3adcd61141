package book

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"strings"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geojson"
	"github.com/paulmach/orb/planar"

	"palethicket/core/foreign"
)

// given says whether something was given where nothing or null may stand.
func given(body json.RawMessage) bool {
	text := strings.TrimSpace(string(body))
	return text != "" && text != "null"
}

func boundaryText(body json.RawMessage) (json.RawMessage, error) {
	if !given(body) {
		return nil, nil
	}
	g, err := polygon(body)
	if err != nil {
		return nil, &FieldError{"boundary", err.Error()}
	}
	return json.Marshal(geojson.NewGeometry(g))
}

// polygon finds the areas in a GeoJSON geometry, feature or collection.
func polygon(body []byte) (orb.Geometry, error) {
	found, err := foreign.Read("the GeoJSON", func() ([]orb.Geometry, error) { return geometries(body) })
	if err != nil {
		return nil, err
	}
	return joined(found)
}

// geometries gives every geometry of a GeoJSON text; features without one are left
// out.
func geometries(body []byte) ([]orb.Geometry, error) {
	var kind struct {
		Type string `json:"type"`
	}
	if err := json.Unmarshal(body, &kind); err != nil {
		return nil, fmt.Errorf("it is not JSON: %w", err)
	}
	switch kind.Type {
	case "FeatureCollection":
		fc, err := geojson.UnmarshalFeatureCollection(body)
		if err != nil {
			return nil, fmt.Errorf("it is not a GeoJSON feature collection: %w", err)
		}
		var found []orb.Geometry
		for _, f := range fc.Features {
			if f != nil && f.Geometry != nil {
				found = append(found, f.Geometry)
			}
		}
		return found, nil
	case "Feature":
		f, err := geojson.UnmarshalFeature(body)
		if err != nil || f.Geometry == nil {
			return nil, fmt.Errorf("it is not a GeoJSON feature with a geometry: %w", cmp.Or(err, errNoGeometry))
		}
		return []orb.Geometry{f.Geometry}, nil
	}
	g, err := geojson.UnmarshalGeometry(body)
	if err != nil || g.Coordinates == nil {
		return nil, fmt.Errorf("it is not GeoJSON: %w", cmp.Or(err, errNoGeometry))
	}
	return []orb.Geometry{g.Geometry()}, nil
}

var errNoGeometry = errors.New("there is nothing in it")

// joined makes one boundary of the areas among geometries.
func joined(found []orb.Geometry) (orb.Geometry, error) {
	var areas orb.MultiPolygon
	for _, g := range found {
		switch g := g.(type) {
		case orb.Polygon:
			areas = append(areas, g)
		case orb.MultiPolygon:
			areas = append(areas, g...)
		}
	}
	if len(areas) == 0 {
		return nil, fmt.Errorf("there is no polygon in it; draw the boundary as a closed area")
	}
	for _, p := range areas {
		if err := checkArea(p); err != nil {
			return nil, err
		}
	}
	if len(areas) == 1 {
		return areas[0], nil
	}
	return areas, nil
}

// leastArea is that of a boundary somebody means, in square degrees: about a tenth of
// a square metre. On the sphere even points on a line enclose something.
const leastArea = 1e-11

func checkArea(p orb.Polygon) error {
	if len(p) == 0 {
		return fmt.Errorf("a polygon has no points; draw the boundary as a closed area")
	}
	for _, ring := range p {
		if len(ring) < 4 || !ring.Closed() {
			return fmt.Errorf("a ring of the polygon is not closed; its last point must be its first")
		}
		if err := onGlobe(ring); err != nil {
			return err
		}
	}
	if !(math.Abs(planar.Area(p)) >= leastArea) {
		return fmt.Errorf("a polygon has no area: its points lie on a line or a spot; draw the boundary around something")
	}
	return nil
}

func onGlobe(points []orb.Point) error {
	for _, p := range points {
		if !(math.Abs(p[0]) <= 180 && math.Abs(p[1]) <= 90) {
			return fmt.Errorf("the point %v, %v is off the globe; GeoJSON is longitude, latitude in degrees", p[0], p[1])
		}
	}
	return nil
}

func terrainText(body json.RawMessage) (json.RawMessage, error) {
	if !given(body) {
		return nil, nil
	}
	text, err := foreign.Read("the GeoJSON", func() ([]byte, error) {
		fc, err := geojson.UnmarshalFeatureCollection(body)
		if err != nil {
			return nil, fmt.Errorf("it is not a GeoJSON feature collection: %w", err)
		}
		for i, f := range fc.Features {
			if f == nil || f.Geometry == nil {
				return nil, fmt.Errorf("feature %d has no geometry; leave it out", i+1)
			}
			if b := f.Geometry.Bound(); b.IsEmpty() || onGlobe([]orb.Point{b.Min, b.Max}) != nil {
				return nil, fmt.Errorf("feature %d is empty or off the globe; GeoJSON is longitude, latitude in degrees", i+1)
			}
		}
		return json.Marshal(fc)
	})
	if err != nil {
		return nil, &FieldError{"terrain", err.Error()}
	}
	return text, nil
}
