package earth_test

import (
	"encoding/json"
	"math"
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/measure/earth"
)

// TestAgainstGeographiclib holds ways and ground to Karney's library (scripts/reference-geographiclib.py).
func TestAgainstGeographiclib(t *testing.T) {
	file, err := os.ReadFile("testdata/geographiclib.json")
	require.NoError(t, err)
	var ref struct {
		Ways    [][6]float64
		Grounds []struct {
			Corners    [][2]float64
			Area, Edge float64
		}
	}
	require.NoError(t, json.Unmarshal(file, &ref))
	require.Len(t, ref.Ways, 400)
	require.Greater(t, len(ref.Grounds), 30)
	for _, w := range ref.Ways {
		metres, bearing, err := earth.Way(earth.Place{Lon: w[0], Lat: w[1]}, earth.Place{Lon: w[2], Lat: w[3]})
		require.NoError(t, err)
		require.InDelta(t, w[4], metres, 0.001)
		require.Less(t, math.Abs(math.Remainder(w[5]-bearing, 360))*math.Pi/180*w[4], 0.01, "to a centimetre sideways")
	}
	worst := 0.0
	for _, g := range ref.Grounds {
		corners := make([]earth.Place, len(g.Corners))
		for i, c := range g.Corners {
			corners[i] = earth.Place{Lon: c[0], Lat: c[1]}
		}
		area, edge, err := earth.Ground(corners)
		require.NoError(t, err)
		worst = max(worst, math.Abs(area/g.Area-1))
		require.InEpsilon(t, g.Area, area, 1e-5)
		require.InDelta(t, g.Edge, edge, 0.01)
	}
	t.Logf("areas to 1 part in %.0f", 1/worst)
}

func TestOddPlaces(t *testing.T) {
	metres, bearing, err := earth.Way(earth.Place{Lon: 10, Lat: 20}, earth.Place{Lon: 10, Lat: 20})
	require.NoError(t, err)
	require.Zero(t, metres+bearing)
	metres, bearing, err = earth.Way(earth.Place{Lon: 179.99, Lat: 0}, earth.Place{Lon: -179.99, Lat: 0})
	require.NoError(t, err, "over the date line, along the equator")
	require.InDelta(t, 2226.39, metres, 0.01)
	require.InDelta(t, 90, bearing, 1e-9)
	_, _, err = earth.Way(earth.Place{}, earth.Place{Lon: 179.99, Lat: 0.01})
	require.ErrorIs(t, err, earth.ErrTooFar)
	_, _, err = earth.Ground([]earth.Place{{}, {Lon: 1}})
	require.Error(t, err)
	require.InDelta(t, 350, earth.Turn(-10), 1e-12)
}
