package measure_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/measure"
)

func TestReadSlope(t *testing.T) {
	for text, want := range map[string]measure.Slope{
		"62 %":      {0.62, "percent"},
		"-8 %":      {-0.08, "percent"},
		"−8%":       {-0.08, "percent"},
		"45°":       {1, "degrees"},
		"-38,2 deg": {-math.Tan(38.2 * math.Pi / 180), "degrees"},
		"75 topo":   {75.0 / 66, "topo"},
		"0 %":       {0, "percent"},
	} {
		got, err := measure.ReadSlope(text)
		require.NoError(t, err, text)
		require.InDelta(t, want.Tan, got.Tan, 1e-12, text)
		require.Equal(t, want.Unit, got.Unit, text)
	}
	for text, says := range map[string]string{"62": "not a slope", "": "not a slope", "90°": "upright", "5000 %": "steeper", "12 m": "not a slope", "700 topo": "steeper", "89.9°": "steeper"} {
		_, err := measure.ReadSlope(text)
		require.ErrorContains(t, err, says, text)
	}
}

func TestReadFactor(t *testing.T) {
	for text, want := range map[string]float64{"2 m2/ha": 2, "2,5 m²/ha": 2.5, "10 ft2/ac": 2.2957, "1 ft²/ac": 0.22957} {
		got, err := measure.ReadFactor(text)
		require.NoError(t, err, text)
		require.InEpsilon(t, want, got, 1e-4, text)
	}
	for _, text := range []string{"2", "0 m2/ha", "2 m", "-2 m2/ha", ""} {
		_, err := measure.ReadFactor(text)
		require.ErrorContains(t, err, "not a basal-area factor", text)
	}
}

func TestMetres(t *testing.T) {
	got, err := measure.Metres("5'6\"")
	require.NoError(t, err)
	require.InDelta(t, 1.6764, got[0], 1e-9)
	got, err = measure.Metres("12 13 14 cm")
	require.NoError(t, err)
	require.InDelta(t, 0.13, got[1], 1e-12)
	_, err = measure.Metres("12")
	require.ErrorContains(t, err, "no unit")
}
