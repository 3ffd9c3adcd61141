package book

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geo"
	"github.com/paulmach/orb/geojson"

	"palethicket/core/tree/record"
	"palethicket/store"
)

// Map is what is drawn of the ground: tracts with their features, and stands
// with their boundaries. Trees come apart, by [Book.Dots].
type Map struct {
	Tracts []TractGround `json:"tracts"`
	Stands []StandGround `json:"stands"`
}

// TractGround is a tract on the ground.
type TractGround struct {
	Tract    string          `json:"tract"`
	Remarks  string          `json:"remarks"`
	Hectares float64         `json:"hectares" doc:"0: no boundary"`
	Boundary json.RawMessage `json:"boundary,omitempty" doc:"GeoJSON polygon or multipolygon"`
	Ground   json.RawMessage `json:"ground,omitempty" doc:"GeoJSON feature collection; a feature's property 'kind' is stream, contour, track or building, and 'elevation_m' a contour's height"`
}

// StandGround is a stand on the ground.
type StandGround struct {
	store.Place
	Hectares float64         `json:"hectares" doc:"0: no boundary"`
	Boundary json.RawMessage `json:"boundary,omitempty" doc:"GeoJSON polygon or multipolygon"`
}

// Map gives the ground of every tract and stand.
func (b *Book) Map(ctx context.Context) (*Map, error) {
	grounds, err := b.Store.Grounds(ctx)
	if err != nil {
		return nil, err
	}
	places, err := b.Store.Places(ctx)
	if err != nil {
		return nil, err
	}
	m := &Map{Tracts: []TractGround{}, Stands: []StandGround{}}
	for _, g := range grounds {
		t := TractGround{Tract: g.Tract, Remarks: g.Remarks}
		t.Boundary, t.Hectares = raw(g.Boundary), hectares(g.Boundary)
		t.Ground = raw(g.Ground)
		m.Tracts = append(m.Tracts, t)
	}
	for _, p := range places {
		m.Stands = append(m.Stands, StandGround{Place: p, Boundary: raw(p.Boundary), Hectares: hectares(p.Boundary)})
	}
	return m, nil
}

func raw(text *string) json.RawMessage {
	if text == nil {
		return nil
	}
	return json.RawMessage(*text)
}

// hectares is the area of a boundary on the sphere.
func hectares(text *string) float64 {
	if text == nil {
		return 0
	}
	g, err := geojson.UnmarshalGeometry([]byte(*text))
	if err != nil {
		return 0 // boundaries are checked when they are put in
	}
	return geo.Area(g.Geometry()) / 1e4
}

// Dot is a tree on the map.
type Dot struct {
	ID     string  `json:"id"`
	Tag    string  `json:"tag"`
	Lon    float64 `json:"lon"`
	Lat    float64 `json:"lat"`
	Status string  `json:"status"`
	Leader string  `json:"leader"`
	Share  float64 `json:"share" doc:"Posterior of the leader"`
	Given  string  `json:"given"`
}

// Dots gives the trees of a query that have a position.
func (b *Book) Dots(ctx context.Context, q store.Query) ([]Dot, error) {
	q.Placed = true
	dots := []Dot{}
	err := b.Store.EachTree(ctx, q, func(l *store.Line) error {
		dots = append(dots, Dot{l.ID, l.Tag, *l.Lon, *l.Lat, l.Status, l.Leader, l.LeaderShare, l.Given})
		return nil
	})
	return dots, err
}

// PutStand keeps a stand's remarks and, where it is given, its boundary as
// GeoJSON: a polygon, or a feature or collection that holds one.
func (b *Book) PutStand(ctx context.Context, tract, stand, remarks string, boundary json.RawMessage) error {
	text, err := boundaryText(boundary)
	if err != nil {
		return err
	}
	return b.Store.PutPlace(ctx, store.Place{Tract: tract, Stand: stand, Remarks: remarks, Boundary: text})
}

// PutTract keeps a tract's remarks and, where they are given, its boundary and
// the features of its map.
func (b *Book) PutTract(ctx context.Context, tract, remarks string, boundary, ground json.RawMessage) error {
	text, err := boundaryText(boundary)
	if err != nil {
		return err
	}
	features, err := groundText(ground)
	if err != nil {
		return err
	}
	return b.Store.PutGround(ctx, store.Ground{Tract: tract, Remarks: remarks, Boundary: text, Ground: features})
}

// given says whether something was given where nothing or null may stand.
func given(body json.RawMessage) bool {
	text := strings.TrimSpace(string(body))
	return text != "" && text != "null"
}

func boundaryText(body json.RawMessage) (*string, error) {
	if !given(body) {
		return nil, nil
	}
	g, err := polygon(body)
	if err != nil {
		return nil, &record.FieldError{Field: "boundary", Message: err.Error()}
	}
	text, err := json.Marshal(geojson.NewGeometry(g))
	if err != nil {
		return nil, fmt.Errorf("writing the boundary: %w", err)
	}
	out := string(text)
	return &out, nil
}

// polygon finds the one area in a GeoJSON geometry, feature or collection.
func polygon(body []byte) (orb.Geometry, error) {
	var kind struct {
		Type string `json:"type"`
	}
	if err := json.Unmarshal(body, &kind); err != nil {
		return nil, fmt.Errorf("it is not JSON: %w", err)
	}
	var found []orb.Geometry
	switch kind.Type {
	case "FeatureCollection":
		fc, err := geojson.UnmarshalFeatureCollection(body)
		if err != nil {
			return nil, fmt.Errorf("it is not a GeoJSON feature collection: %w", err)
		}
		for _, f := range fc.Features {
			found = append(found, f.Geometry)
		}
	case "Feature":
		f, err := geojson.UnmarshalFeature(body)
		if err != nil {
			return nil, fmt.Errorf("it is not a GeoJSON feature: %w", err)
		}
		found = append(found, f.Geometry)
	default:
		g, err := geojson.UnmarshalGeometry(body)
		if err != nil {
			return nil, fmt.Errorf("it is not GeoJSON: %w", err)
		}
		found = append(found, g.Geometry())
	}
	return joined(found)
}

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
		for _, ring := range p {
			if len(ring) < 4 || !ring.Closed() {
				return nil, fmt.Errorf("a ring of the polygon is not closed; its last point must be its first")
			}
			if err := onGlobe(ring); err != nil {
				return nil, err
			}
		}
	}
	if len(areas) == 1 {
		return areas[0], nil
	}
	return areas, nil
}

func onGlobe(points []orb.Point) error {
	for _, p := range points {
		if p[0] < -180 || p[0] > 180 || p[1] < -90 || p[1] > 90 {
			return fmt.Errorf("the point %v, %v is off the globe; GeoJSON is longitude, latitude in degrees", p[0], p[1])
		}
	}
	return nil
}

func groundText(body json.RawMessage) (*string, error) {
	if !given(body) {
		return nil, nil
	}
	fc, err := geojson.UnmarshalFeatureCollection(body)
	if err != nil {
		return nil, &record.FieldError{Field: "ground", Message: "it is not a GeoJSON feature collection: " + err.Error()}
	}
	text, err := json.Marshal(fc)
	if err != nil {
		return nil, fmt.Errorf("writing the ground: %w", err)
	}
	out := string(text)
	return &out, nil
}
