package earth_test

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/measure/earth"
)

// TestAgainstPROJ holds the UTM grid to PROJ (scripts/reference-utm.py), there and back, to a millimetre.
func TestAgainstPROJ(t *testing.T) {
	file, err := os.ReadFile("testdata/utm.json")
	require.NoError(t, err)
	var ref []struct {
		Lon, Lat, Easting, Northing float64
		Zone                        int
		South                       bool
	}
	require.NoError(t, json.Unmarshal(file, &ref))
	require.Greater(t, len(ref), 200)
	for _, r := range ref {
		u, err := earth.ToUTM(earth.Place{Lon: r.Lon, Lat: r.Lat})
		require.NoError(t, err)
		require.Equal(t, r.Zone, u.Zone)
		require.Equal(t, r.South, u.South)
		require.InDelta(t, r.Easting, u.Easting, 1e-3, "%+v", r)
		require.InDelta(t, r.Northing, u.Northing, 1e-3, "%+v", r)
		p, err := earth.FromUTM(u)
		require.NoError(t, err)
		require.InDelta(t, r.Lat, p.Lat, 1e-8, "%+v", r)
		require.InDelta(t, r.Lon, p.Lon, 1e-7, "%+v", r)
	}
}

func TestOffTheGrid(t *testing.T) {
	for _, u := range []earth.UTM{{Zone: 0, Easting: 5e5}, {Zone: 61, Easting: 5e5}, {Zone: 15, Easting: 5}, {Zone: 15, Easting: 5e5, Northing: -1}} {
		_, err := earth.FromUTM(u)
		require.Error(t, err, "%+v", u)
	}
	_, err := earth.ToUTM(earth.Place{Lat: 85})
	require.ErrorContains(t, err, "84° N")
}
