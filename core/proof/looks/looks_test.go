package looks_test

import (
	"context"
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora/floratest"
	"palethicket/core/proof/looks"
)

// TestMeasure: from nothing to a name the program's own next look takes at most half of
// what looks at random take, and less than any fixed order; hardly a name is wrong.
// PT_LOOKS says how many specimens to draw of each region, and has the tables of
// docs/performance.md written out.
func TestMeasure(t *testing.T) {
	f := floratest.Shipped(t)
	specimens, said := 40, os.Getenv("PT_LOOKS")
	if said != "" {
		n, err := strconv.Atoi(said)
		require.NoError(t, err)
		specimens = n
	}
	var regions []*looks.Region
	for _, region := range f.RegionIDs() {
		r, err := looks.Measure(t.Context(), f, region, specimens, 1)
		require.NoError(t, err)
		regions = append(regions, r)
		own, random := r.Orders[0], r.Orders[len(r.Orders)-1]
		require.LessOrEqual(t, own.Looks, random.Looks/2, region)
		for _, m := range r.Orders[2:] {
			require.Less(t, own.Looks, m.Looks, "%s: %s", region, m.Order)
			require.Less(t, own.Minutes, m.Minutes, "%s: %s", region, m.Order)
		}
		require.Greater(t, own.Named*20, specimens*19, "nearly all come to a name")
		require.Greater(t, own.Right*10, own.Named*9, "nearly all names are right")
		require.Less(t, own.Looks, 1.5*r.Bound(own.Best))
		require.Greater(t, own.Looks, r.Bound(r.First))
	}
	if said != "" {
		var text strings.Builder
		require.NoError(t, looks.WriteReport(&text, regions))
		t.Log("\n" + text.String())
	}
}

func TestMeasuringStops(t *testing.T) {
	f := floratest.Shipped(t)
	ctx, stop := context.WithCancel(t.Context())
	stop()
	_, err := looks.Measure(ctx, f, f.HomeRegion(), 10, 1)
	require.ErrorIs(t, err, context.Canceled)
	_, err = looks.Measure(t.Context(), f, "nowhere", 10, 1)
	require.ErrorContains(t, err, "nowhere")
}
