package book

import (
	"cmp"
	"context"
	"slices"

	"github.com/paulmach/orb"

	"palethicket/core/stand/revisit"
	"palethicket/core/stand/worklist"
)

// Near is a tree that is to be done and how to get to it.
type Near struct {
	Dot
	Metres  float64 `json:"metres" doc:"In a straight line"`
	Bearing float64 `json:"bearing" doc:"Degrees from true north, clockwise"`
	Way     string  `json:"way" doc:"The same, in words"`
}

// Nearest gives the trees of a query that are nearest to a place and not done: at most as
// many as asked for.
func (b *Book) Nearest(ctx context.Context, q Query, lon, lat float64, most int) ([]Near, error) {
	dots, err := b.Dots(ctx, q)
	if err != nil {
		return nil, err
	}
	from, out := orb.Point{lon, lat}, []Near{}
	for _, d := range dots {
		if !slices.Contains(worklist.Unsettled, d.Status) {
			continue
		}
		w := revisit.WayTo(from, orb.Point{d.Lon, d.Lat})
		out = append(out, Near{d, w.Metres, w.Bearing, w.Words()})
	}
	slices.SortFunc(out, func(x, y Near) int { return cmp.Or(cmp.Compare(x.Metres, y.Metres), cmp.Compare(x.ID, y.ID)) })
	return out[:min(most, len(out))], nil
}
