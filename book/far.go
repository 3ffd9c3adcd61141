package book

import (
	"context"
	"fmt"
	"strings"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geo"
	"github.com/paulmach/orb/geojson"

	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// farKm is how far from the middle of a tract's trees a place is asked about, as most that
// are so far off have a slip in their figures.
const farKm = 50

// middles are where tracts are, by name; nil where it is not known.
type middles map[string]*orb.Point

// of gives the middle of a tract's other trees, or of its boundary where none has a position.
func (m middles) of(ctx context.Context, from store.Reader, tract, tree string) (*orb.Point, error) {
	if at, known := m[tract]; known {
		return at, nil
	}
	lon, lat, has, err := from.Middle(ctx, tract, tree)
	if err != nil {
		return nil, err
	}
	if has {
		m[tract] = &orb.Point{lon, lat}
		return m[tract], nil
	}
	tracts, err := from.Tracts(ctx)
	for _, t := range tracts {
		if t.Tract != tract || t.Boundary == nil {
			continue
		}
		if g, err := geojson.UnmarshalGeometry([]byte(*t.Boundary)); err == nil {
			at := g.Geometry().Bound().Center()
			m[tract] = &at
		}
	}
	return m[tract], err
}

// says says what is odd about a place that is far from the middle of a tract's trees, or "".
func (m middles) says(ctx context.Context, from store.Reader, tract, tree string, at *logbook.Position) (string, error) {
	middle, err := m.of(ctx, from, tract, tree)
	if middle == nil || err != nil {
		return "", err
	}
	off := func(lon, lat float64) float64 { return geo.Distance(*middle, orb.Point{lon, lat}) / 1000 }
	km := off(at.Lon, at.Lat)
	if km <= farKm {
		return "", nil
	}
	var out strings.Builder
	fmt.Fprintf(&out, "%v, %v is %.0f km from the other trees of %s", at.Lat, at.Lon, km, tract)
	for _, slip := range []struct {
		lon, lat float64
		says     string
	}{
		{-at.Lon, at.Lat, fmt.Sprintf("; is the longitude %v", -at.Lon)},
		{at.Lon, -at.Lat, fmt.Sprintf("; is the latitude %v", -at.Lat)},
	} {
		if off(slip.lon, slip.lat) <= farKm {
			return out.String() + slip.says + "?", nil
		}
	}
	return out.String(), nil
}

// atHand refuses a place that is far from the other trees of the tract.
func (b *Book) atHand(ctx context.Context, tract, tree string, at *logbook.Position) error {
	says, err := middles{}.says(ctx, b.store.Reader, tract, tree, at)
	if err != nil || says == "" {
		return err
	}
	if !strings.HasSuffix(says, "?") {
		says += "."
	}
	return &FieldError{"far", says + " Mend it, or say that it is meant."}
}
