package demo_test

import (
	"encoding/json"
	"math/rand/v2"
	"testing"

	"github.com/paulmach/orb"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/core/day/land"
	"palethicket/core/day/tour"
	"palethicket/demo/demotest"
)

// TestDaysOfTheDemo plans 20 short days of the demo's own worklist, from where chance sets one
// down, over its contours and streams: they gain at least 1.3 times what going to the nearest does.
func TestDaysOfTheDemo(t *testing.T) {
	t.Parallel()
	b := demotest.New(t)
	open, err := b.Worklist(t.Context(), book.Query{}, 500, 0)
	require.NoError(t, err)
	m, err := b.Map(t.Context())
	require.NoError(t, err)
	ground, err := land.Read([]json.RawMessage{m.Tracts[0].Terrain})
	require.NoError(t, err)
	var at []orb.Point
	d := &tour.Day{Minutes: 90}
	for _, tree := range open.Trees {
		at = append(at, orb.Point{*tree.Lon, *tree.Lat})
		d.Stops = append(d.Stops, tour.Stop{ID: tree.ID, Worth: tree.NextBits, Minutes: 2 + float64(tree.NextSeconds)/20})
	}
	plans, nearest := 0.0, 0.0
	for seed := range uint64(20) {
		from := at[rand.New(rand.NewPCG(seed, 4)).IntN(len(at))]
		places := ground.Between(append(append([]orb.Point(nil), at...), from, from), 1)
		d.Way = func(x, y int) float64 { return places.Way(x, y).Minutes }
		p, err := tour.Solve(t.Context(), d, seed, 150)
		require.NoError(t, err)
		plans, nearest = plans+p.Worth, nearest+tour.NearestFirst(d)
	}
	t.Logf("%.2f times what nearest-first gains", plans/nearest)
	require.Greater(t, plans, 1.3*nearest)
}
