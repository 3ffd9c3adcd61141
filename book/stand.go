package book

import (
	"context"
	"encoding/json"
	"errors"

	"github.com/paulmach/orb/geo"
	"github.com/paulmach/orb/geojson"

	"palethicket/core/label"
	"palethicket/core/tree/logbook"
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

// Map is what is drawn beside the trees: tracts with their terrain, and stands with
// their boundaries. Trees come apart, by [Book.Dots].
type Map struct {
	Tracts []TractMap `json:"tracts"`
	Stands []StandMap `json:"stands"`
	Points []PlotSpot `json:"points" doc:"Sample points that have a position"`
}

// PlotSpot is a sample point on the map.
type PlotSpot struct {
	Name  string  `json:"name"`
	Stand string  `json:"stand"`
	Lon   float64 `json:"lon"`
	Lat   float64 `json:"lat"`
	Stems int     `json:"stems"`
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
	plots, err := from.Plots(ctx, "", "")
	if err != nil {
		return nil, err
	}
	points := []PlotSpot{}
	for _, p := range plots {
		if p.Position != nil {
			points = append(points, PlotSpot{p.Name, p.Stand, p.Position.Lon, p.Position.Lat, len(p.Stems)})
		}
	}
	return &Map{
		Points: points,
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
	New      bool            `json:"new,omitempty" doc:"Make it where the book has none of the name; absent: refuse it"`
}

// NewTract is what is kept of a tract.
type NewTract struct {
	Tract    string          `json:"tract" minLength:"1" maxLength:"80" pattern:"\\S"`
	Remarks  string          `json:"remarks,omitempty" maxLength:"2000"`
	Boundary json.RawMessage `json:"boundary,omitempty" doc:"GeoJSON that holds a polygon; absent: as it is"`
	Terrain  json.RawMessage `json:"terrain,omitempty" doc:"GeoJSON as the map has it; absent: as it is"`
	New      bool            `json:"new,omitempty" doc:"Make it where the book has none of the name; absent: refuse it"`
}

// PutStand keeps a stand's remarks and, where it is given, its boundary as
// GeoJSON: a polygon, or a feature or collection that holds one.
func (b *Book) PutStand(ctx context.Context, s NewStand, by string) error {
	err := cleanNames(nameField{"tract", &s.Tract, label.NameMost}, nameField{"stand", &s.Stand, label.NameMost})
	if err != nil {
		return err
	}
	boundary, err := boundaryText(s.Boundary)
	if err != nil {
		return err
	}
	return b.putLand(ctx, logbook.Land{Tract: s.Tract, Stand: s.Stand, Remarks: &s.Remarks, Boundary: boundary}, s.New, by)
}

// PutTract keeps a tract's remarks and, where they are given, its boundary and
// terrain.
func (b *Book) PutTract(ctx context.Context, t NewTract, by string) error {
	if err := cleanNames(nameField{"tract", &t.Tract, label.NameMost}); err != nil {
		return err
	}
	boundary, err := boundaryText(t.Boundary)
	if err != nil {
		return err
	}
	terrain, err := terrainText(t.Terrain)
	if err != nil {
		return err
	}
	return b.putLand(ctx, logbook.Land{Tract: t.Tract, Remarks: &t.Remarks, Boundary: boundary, Terrain: terrain}, t.New, by)
}
