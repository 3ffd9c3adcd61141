package revisit_test

import (
	"testing"

	"github.com/paulmach/orb"
	"github.com/stretchr/testify/require"

	"palethicket/core/stand/revisit"
)

// TestWay against the length of a degree on the ellipsoid of WGS 84 at this latitude, by
// its usual series (from memory): 111 105 m of latitude and 80 770 m of longitude.
func TestWay(t *testing.T) {
	t.Parallel()
	at := orb.Point{-90.64, 43.56}
	for _, c := range []struct {
		to      orb.Point
		metres  float64
		bearing float64
		words   string
	}{
		{orb.Point{-90.64, 43.57}, 1111.05, 0, "1.1 km north (0°)"},
		{orb.Point{-90.637, 43.56}, 242.3, 90, "240 m east (90°)"},
		{orb.Point{-90.643, 43.558}, 328.7, 227.5, "330 m south-west (227°)"},
		{orb.Point{-90.64005, 43.56003}, 5.23, 310, "here, within 10 m"},
	} {
		w := revisit.WayTo(at, c.to)
		require.InEpsilon(t, c.metres, w.Metres, 0.006)
		if c.metres > 10 {
			require.InDelta(t, c.bearing, w.Bearing, 1.5)
		}
		require.Equal(t, c.words, w.Words())
	}
}
