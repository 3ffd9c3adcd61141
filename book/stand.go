package book

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geo"
	"github.com/paulmach/orb/geojson"

	"palethicket/core/stand/composition"
	"palethicket/core/tree/record"
	"palethicket/store"
)

// Stand is a stand of a tract, and what is known of it.
type Stand struct {
	Tract   string `json:"tract"`
	Name    string `json:"stand"`
	Remarks string `json:"remarks"`
	Trees   int    `json:"trees"`
	Open    int    `json:"open" doc:"Trees that are not yet named, or in doubt"`
}

// Stands lists the stands by tract and name.
func (b *Book) Stands(ctx context.Context) ([]Stand, error) {
	stands, err := b.store.Stands(ctx)
	return each(stands, standOf), err
}

func standOf(s store.Stand) Stand { return Stand{s.Tract, s.Stand, s.Remarks, s.Trees, s.Open} }

// Visit is a day's walk in a tract. Every look belongs to one.
type Visit struct {
	ID        string `json:"id" minLength:"26" maxLength:"26" doc:"ULID, made by who enters the visit"`
	Tract     string `json:"tract" minLength:"1" maxLength:"80"`
	Day       string `json:"day" format:"date"`
	Crew      string `json:"crew,omitempty" maxLength:"200"`
	Weather   string `json:"weather,omitempty" maxLength:"200"`
	Snow      string `json:"snow,omitempty" enum:"none,patchy,deep" default:"none"`
	Remarks   string `json:"remarks,omitempty" maxLength:"2000"`
	Trees     int    `json:"trees,omitempty" readOnly:"true" doc:"Trees looked at"`
	Looks     int    `json:"looks,omitempty" readOnly:"true"`
	SnowWords string `json:"snow_words,omitempty" readOnly:"true"`
}

func visitOf(v store.Visit) Visit {
	return Visit{v.ID, v.Tract, v.Day, v.Crew, v.Weather, v.Snow, v.Remarks, v.Trees, v.Looks, record.Snows.Words(v.Snow)}
}

// Visits gives a tract's visits, or all, the latest first.
func (b *Book) Visits(ctx context.Context, tract string) ([]Visit, error) {
	visits, err := b.store.Visits(ctx, tract)
	return each(visits, visitOf), err
}

// PutVisit keeps a visit, in place of the one of that id if there is one.
func (b *Book) PutVisit(ctx context.Context, v Visit) error {
	return b.store.Write(ctx, func(tx *store.Tx) error {
		return tx.PutVisit(
			ctx,
			store.Visit{ID: v.ID, Tract: v.Tract, Day: v.Day, Crew: v.Crew, Weather: v.Weather, Snow: v.Snow, Remarks: v.Remarks},
		)
	})
}

// Composition is what grows in a stand or a tract.
type Composition struct {
	Trees      int     `json:"trees"`
	Determined int     `json:"determined" doc:"Trees that carry a name nothing speaks against"`
	Measured   float64 `json:"area_m2" doc:"Basal area of the trees whose diameter was measured"`
	Shares     []Share `json:"shares" doc:"By taxon, the most common first; the last may be 'unlisted'"`
	Note       string  `json:"note" doc:"What the intervals do and do not say"`
}

// Share is one taxon's part of a stand.
type Share struct {
	Taxon      string  `json:"taxon"`
	English    string  `json:"english"`
	Stems      float64 `json:"stems" doc:"Expected number of stems"`
	StemsFrom  float64 `json:"stems_from" doc:"Lower end of the 95 % interval"`
	StemsTo    float64 `json:"stems_to"`
	Area       float64 `json:"area_m2" doc:"Expected basal area, of the trees whose diameter was measured"`
	AreaFrom   float64 `json:"area_from_m2"`
	AreaTo     float64 `json:"area_to_m2"`
	Determined int     `json:"determined" doc:"Trees that carry this name undoubted"`
}

const compositionNote = "Each tree counts for every species by what the evidence gives it. The ranges hold the doubt about names only: " +
	"trees that nobody tagged are not counted, and a tree scored wrongly counts wrongly. Taxa under 0.2 % of a tree are left out."

// Composition adds up the trees of a stand, a tract or the whole book.
func (b *Book) Composition(ctx context.Context, tract, stand string) (c *Composition, err error) {
	snap, err := b.store.Snapshot(ctx)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, snap.Close()) }()
	return b.composition(ctx, snap.Reader, tract, stand)
}

func (b *Book) composition(ctx context.Context, from store.Reader, tract, stand string) (*Composition, error) {
	n, area, sums, err := from.Sums(ctx, tract, stand)
	if err != nil {
		return nil, err
	}
	sh := b.shelf.Load()
	out := &Composition{Trees: n, Measured: area, Note: compositionNote}
	out.Shares = each(composition.Shares(n, area, sums), func(s composition.Share) Share {
		out.Determined += s.Determined
		return Share{s.Taxon, sh.english(s.Taxon, ""), s.Stems, s.StemsFrom, s.StemsTo, s.Area, s.AreaFrom, s.AreaTo, s.Determined}
	})
	return out, nil
}

// Map is what is drawn beside the trees: tracts with their terrain, and stands with
// their boundaries. Trees come apart, by [Book.Dots].
type Map struct {
	Tracts []TractMap `json:"tracts"`
	Stands []StandMap `json:"stands"`
}

// TractMap is a tract on the map.
type TractMap struct {
	Tract    string          `json:"tract"`
	Remarks  string          `json:"remarks"`
	Hectares float64         `json:"hectares" doc:"0: no boundary"`
	Boundary json.RawMessage `json:"boundary,omitempty" doc:"GeoJSON polygon or multipolygon"`
	Terrain  json.RawMessage `json:"terrain,omitempty" doc:"GeoJSON: streams, contours, tracks and buildings by their property kind"`
}

// StandMap is a stand on the map.
type StandMap struct {
	Stand
	Hectares float64         `json:"hectares" doc:"0: no boundary"`
	Boundary json.RawMessage `json:"boundary,omitempty" doc:"GeoJSON polygon or multipolygon"`
}

// Map gives the map of every tract and stand.
func (b *Book) Map(ctx context.Context) (m *Map, err error) {
	snap, err := b.store.Snapshot(ctx)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, snap.Close()) }()
	return b.mapped(ctx, snap.Reader)
}

func (b *Book) mapped(ctx context.Context, from store.Reader) (*Map, error) {
	tracts, err := from.Tracts(ctx)
	if err != nil {
		return nil, err
	}
	stands, err := from.Stands(ctx)
	if err != nil {
		return nil, err
	}
	return &Map{
		Tracts: each(tracts, func(t store.Tract) TractMap {
			return TractMap{t.Tract, t.Remarks, hectares(t.Boundary), raw(t.Boundary), raw(t.Terrain)}
		}),
		Stands: each(stands, func(s store.Stand) StandMap {
			return StandMap{standOf(s), hectares(s.Boundary), raw(s.Boundary)}
		}),
	}, nil
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

// NewStand is what is kept of a stand.
type NewStand struct {
	Tract    string          `json:"tract" minLength:"1" maxLength:"80" pattern:"\\S"`
	Stand    string          `json:"stand" minLength:"1" maxLength:"80" pattern:"\\S"`
	Remarks  string          `json:"remarks,omitempty" maxLength:"2000"`
	Boundary json.RawMessage `json:"boundary,omitempty" doc:"GeoJSON that holds a polygon; absent: as it is"`
}

// NewTract is what is kept of a tract.
type NewTract struct {
	Tract    string          `json:"tract" minLength:"1" maxLength:"80" pattern:"\\S"`
	Remarks  string          `json:"remarks,omitempty" maxLength:"2000"`
	Boundary json.RawMessage `json:"boundary,omitempty" doc:"GeoJSON that holds a polygon; absent: as it is"`
	Terrain  json.RawMessage `json:"terrain,omitempty" doc:"GeoJSON as the map has it; absent: as it is"`
}

// PutStand keeps a stand's remarks and, where it is given, its boundary as
// GeoJSON: a polygon, or a feature or collection that holds one.
func (b *Book) PutStand(ctx context.Context, s NewStand) error {
	text, err := boundaryText(s.Boundary)
	if err != nil {
		return err
	}
	return b.store.Write(ctx, func(tx *store.Tx) error {
		return tx.PutStand(ctx, store.Stand{Tract: s.Tract, Stand: s.Stand, Remarks: s.Remarks, Boundary: text})
	})
}

// PutTract keeps a tract's remarks and, where they are given, its boundary and
// terrain.
func (b *Book) PutTract(ctx context.Context, t NewTract) error {
	boundary, err := boundaryText(t.Boundary)
	if err != nil {
		return err
	}
	terrain, err := terrainText(t.Terrain)
	if err != nil {
		return err
	}
	return b.store.Write(ctx, func(tx *store.Tx) error {
		return tx.PutTract(ctx, store.Tract{Tract: t.Tract, Remarks: t.Remarks, Boundary: boundary, Terrain: terrain})
	})
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
		return nil, &FieldError{"boundary", err.Error()}
	}
	text, err := json.Marshal(geojson.NewGeometry(g))
	if err != nil {
		return nil, fmt.Errorf("writing the boundary: %w", err)
	}
	out := string(text)
	return &out, nil
}

// polygon finds the areas in a GeoJSON geometry, feature or collection.
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
			if f != nil {
				found = append(found, f.Geometry)
			}
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

func terrainText(body json.RawMessage) (*string, error) {
	if !given(body) {
		return nil, nil
	}
	fc, err := geojson.UnmarshalFeatureCollection(body)
	if err != nil {
		return nil, &FieldError{"terrain", "it is not a GeoJSON feature collection: " + err.Error()}
	}
	text, err := json.Marshal(fc)
	if err != nil {
		return nil, fmt.Errorf("writing the terrain: %w", err)
	}
	out := string(text)
	return &out, nil
}
