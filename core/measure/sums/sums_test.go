package sums_test

import (
	"encoding/json"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/measure/sums"
)

func do(t testing.TB, text string) *sums.Result {
	t.Helper()
	var asked map[string]json.RawMessage
	require.NoError(t, json.Unmarshal([]byte(text), &asked), text)
	return sums.Do(asked)
}

// TestWorked holds each sum to its worked example; those of heights, sweeps and densities are the kind that
// Avery & Burkhart's Forest Measurements and Husch, Beers & Kershaw's Forest Mensuration work through (formulas from memory).
func TestWorked(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		asked string
		value float64
		unit  string
		parts map[string]float64
	}{
		{`{"sum": "diameter-girth", "girth": "94.2 cm"}`, 29.98, "cm", nil},
		{`{"sum": "diameter-girth", "girth": "37 in"}`, 29.91, "cm", nil},
		{`{"sum": "diameter-crossed", "first": "31 cm", "second": "29 cm"}`, 30, "cm", nil},
		{`{"sum": "diameter-stems", "stems": ["12 cm", "9.5 cm", "7 cm"]}`, 16.83, "cm", nil},
		{`{"sum": "height-angles", "distance": "20 m", "along": "level", "top": "62 %", "base": "-8 %"}`, 14.0, "m", nil},
		{`{"sum": "height-angles", "distance": "25 m", "along": "slope", "slope": "20 %", "top": "70 %", "base": "10 %"}`, 14.71, "m",
			map[string]float64{"horizontal_m": 24.51}},
		{`{"sum": "height-angles", "distance": "30 m", "top": "35°", "base": "-5°"}`, 23.63, "m", nil},
		{`{"sum": "height-angles", "distance": "66 ft", "top": "75 topo", "base": "-6 topo"}`, 24.69, "m", nil},
		{`{"sum": "height-angles", "distance": "1 chain", "top": "75 topo", "base": "-6 topo"}`, 24.69, "m", nil},
		{`{"sum": "height-angles", "distance": "32.1 m at 38.2°", "top": "62 %", "base": "-8 %"}`, 32.1 * math.Cos(38.2*math.Pi/180) * 0.7, "m",
			map[string]float64{"horizontal_m": 25.226}},
		{`{"sum": "height-stick", "distance": "20 m at -10 %", "stick": "65 cm", "arm": "65 cm"}`, 19.901, "m", nil},
		{`{"sum": "height-laser", "top_range": "32.1 m", "top_angle": "38.2°", "base_range": "25.4 m", "base_angle": "-4.1°"}`, 21.67, "m", nil},
		{`{"sum": "height-stick", "distance": "18 m", "stick": "65 cm", "arm": "70 cm"}`, 16.71, "m", nil},
		{`{"sum": "horizontal", "along": "25 m", "slope": "20 %"}`, 24.51, "m", nil},
		{`{"sum": "basal-area", "diameter": "30 cm"}`, 0.0707, "m²", nil},
		{`{"sum": "basal-area", "diameter": "12 in"}`, 0.005454 * 144 * 0.09290304, "m²", nil},
		{`{"sum": "sweep", "factor": "2 m2/ha", "diameters": ["24 cm", "31 cm", "31 cm", "42 cm", "55 cm"]}`, 10, "m²/ha",
			map[string]float64{"stems_per_ha": 120.1, "quadratic_mean_cm": 32.57}},
		{`{"sum": "sweep", "factor": "2 m2/ha", "diameters": ["30 cm"], "borderline": ["30 cm"]}`, 3, "m²/ha", map[string]float64{"quadratic_mean_cm": 30}},
		{`{"sum": "sweep-points", "factor": "2 m2/ha", "counts": [10, 12, 14, 8, 11]}`, 22, "m²/ha",
			map[string]float64{"from": 22 - 2.776*2, "to": 22 + 2.776*2, "points": 5}},
		{`{"sum": "sweep", "factor": "2 m2/ha", "diameters": ["30 cm", "30 cm"], "slope": "40 %"}`, 4 * math.Sqrt(1.16), "m²/ha",
			map[string]float64{"quadratic_mean_cm": 30}},
		{`{"sum": "sweep-points", "factor": "2 m2/ha", "counts": [10.5, 12, 13.5], "slope": "40 %"}`, 24 * math.Sqrt(1.16), "m²/ha", nil},
		{`{"sum": "plot", "radius": "11.28 m", "slope": "40 %"}`, 25.02 * math.Sqrt(1.16), "per ha", nil},
		{`{"sum": "limiting-distance", "factor": "2 m2/ha", "diameter": "30 cm"}`, 10.61, "m", nil},
		{`{"sum": "limiting-distance", "factor": "10 ft2/ac", "diameter": "12 in"}`, 8.696 / math.Sqrt(10) * 12 * 0.3048, "m", nil},
		{`{"sum": "plot", "radius": "11.28 m"}`, 25.02, "per ha", nil},
		{`{"sum": "stand-density", "stems_per_ha": 800, "quadratic_mean": "20 cm"}`, 545.1, "", nil},
		{`{"sum": "readings-needed", "spread": "25 %", "within": "10 %", "confidence": "95 %"}`, 25, "readings", nil},
		{`{"sum": "crown", "height": "20 m", "base": "8 m", "widths": ["5 m", "7 m"]}`, 60, "%", map[string]float64{"mean_width_m": 6}},
		{`{"sum": "whorls", "counted": 22, "below": 4, "species": "Eastern white pine"}`, 26, "years", nil},
		{`{"sum": "sap", "sugar": 2.15}`, 40, "volumes", nil},
		{`{"sum": "sap", "sugar": 1.23}`, 69.9, "volumes", nil},
		{`{"sum": "pace", "distance": "100 m", "counts": [125, 128, 122]}`, 0.8001, "m", nil},
		{`{"sum": "fix", "positions": [[-90.63, 43.57], [-90.63, 43.5701]]}`, 5.555, "m", map[string]float64{"lat": 43.57005, "worst_m": 5.555}},
		{`{"sum": "bearing", "from": [-90.63, 43.57], "to": [-90.63, 43.58], "declination": -1.5}`, 1110.93, "m",
			map[string]float64{"true_degrees": 0, "magnetic_degrees": 1.5}},
		{`{"sum": "area", "corners": [[-90.63, 43.57], [-90.62, 43.57], [-90.62, 43.58], [-90.63, 43.58]]}`, 89.75, "ha", nil},
	} {
		got := do(t, c.asked)
		require.Empty(t, got.Error, c.asked)
		require.InEpsilon(t, c.value, *got.Value, 6e-4, c.asked)
		require.Equal(t, c.unit, got.Unit, c.asked)
		for name, part := range c.parts {
			require.InDelta(t, part, got.Parts[name], max(1e-3, 6e-4*math.Abs(part)), "%s of %s", name, c.asked)
		}
	}
	seen := map[string]bool{}
	for _, s := range sums.All {
		require.False(t, seen[s.ID])
		seen[s.ID] = true
		require.NotEmpty(t, s.Source, s.ID)
	}
	require.Len(t, sums.All, 21)
}

// TestWrong: what is missing, of another kind or impossible is named, and the others still come out.
func TestWrong(t *testing.T) {
	t.Parallel()
	for asked, says := range map[string]string{
		`{}`:                                        "sum: say which",
		`{"sum": "height-moon"}`:                    `there is no "height-moon"`,
		`{"sum": "basal-area"}`:                     "diameter: this is missing",
		`{"sum": "basal-area", "diameter": 30}`:     "diameter: want a length with its unit",
		`{"sum": "basal-area", "diameter": "30"}`:   "has no unit",
		`{"sum": "basal-area", "diameter": "30 %"}`: "diameter:",
		`{"sum": "basal-area", "diameter": "30 cm", "girth": "1 m"}`:                                                        "girth: basal-area does not take that; it takes diameter",
		`{"sum": "basal-area", "diameter": "30 cm", "diameter_by": "guessing"}`:                                             "is no way to measure",
		`{"sum": "height-angles", "distance": "20 m", "top": "-8 %", "base": "62 %"}`:                                       "the top lies no higher",
		`{"sum": "height-angles", "distance": "20 m", "along": "slope", "top": "8 %", "base": "2 %"}`:                       "slope: this is missing",
		`{"sum": "height-angles", "distance": "20 m", "slope": "5 %", "top": "8 %", "base": "2 %"}`:                         "was measured level",
		`{"sum": "height-angles", "distance": "20 m", "along": "up", "top": "8 %", "base": "2 %"}`:                          `along: "up"; use one of level, slope`,
		`{"sum": "sweep", "factor": "2", "diameters": ["24 cm"]}`:                                                           "factor:",
		`{"sum": "sweep", "factor": "2 m2/ha", "diameters": []}`:                                                            "the list is empty",
		`{"sum": "sweep", "factor": "2 m2/ha", "diameters": "24 cm"}`:                                                       "want a list of lengths",
		`{"sum": "sweep-points", "factor": "2 m2/ha", "counts": [5]}`:                                                       "want two or more",
		`{"sum": "sweep-points", "factor": "2 m2/ha", "counts": [5, 6.3]}`:                                                  "6.3 is no count",
		`{"sum": "crown", "height": "20 m at 30°", "base": "8 m", "widths": ["5 m"]}`:                                       "height: a range at an angle is not the tree's height",
		`{"sum": "height-angles", "distance": "20 m at 95°", "top": "8 %", "base": "2 %"}`:                                  "distance:",
		`{"sum": "height-angles", "distance": "20 m", "top": "89.9°", "base": "2 %"}`:                                       "top: \"89.9°\" is steeper than any scale shows",
		`{"sum": "height-angles", "distance": "1 234 m", "top": "8 %", "base": "2 %"}`:                                      "may be one figure or several readings",
		`{"sum": "height-angles", "distance": "20 m at 9°", "along": "slope", "slope": "5 %", "top": "8 %", "base": "2 %"}`: `say "along": "level"`,
		`{"sum": "whorls", "counted": 12, "below": 3, "species": "jack pine"}`:                                              "is not known to make one whorl a year",
		`{"sum": "sap", "sugar": 0}`:     "is no sap",
		`{"sum": "sap", "sugar": "2 %"}`: "want a number without a unit",
		`{"sum": "readings-needed", "spread": "25 %", "within": "10 %", "confidence": "100 %"}`: "nothing is known for certain",
		`{"sum": "area", "corners": [[0, 0], [1, 1]]}`:                                          "want 3 places or more",
		`{"sum": "area", "corners": [[0, 0], [0, 1], [0, 2]]}`:                                  "on one line",
		`{"sum": "bearing", "from": [200, 0], "to": [0, 0]}`:                                    "from: want [longitude, latitude]",
		`{"sum": "fix", "positions": [[0, 0]], "hdop": [1, 2]}`:                                 "there are 2 for 1 positions",
		`{"sum": "crown", "height": "8 m", "base": "9 m", "widths": ["5 m"]}`:                   "begins higher",
		`{"sum": 7}`: "sum:",
	} {
		got := do(t, asked)
		require.Contains(t, got.Error, says, asked)
		require.Nil(t, got.Value, asked)
	}
	all, err := sums.DoAll([]byte(`{"sums": [{"id": "a", "sum": "basal-area"}, {"id": "b", "sum": "basal-area", "diameter": "30 cm"}]}`))
	require.NoError(t, err)
	require.Equal(t, "a", all[0].ID)
	require.NotEmpty(t, all[0].Error)
	require.Equal(t, "0.071 m² ± 0.001", all[1].Says)
	_, err = sums.DoAll([]byte(`[1, 2]`))
	require.ErrorContains(t, err, "no file of sums")
}

// TestErrorsCarryOver holds the carried error of a height along a slope to what drawing the readings gives, and the shown
// error to the design's: 14.0 m ± 0.2.
func TestErrorsCarryOver(t *testing.T) {
	t.Parallel()
	got := do(t, `{"sum": "height-angles", "distance": "20 m", "top": "62 %", "base": "-8 %"}`)
	require.Equal(t, "14.0 m ± 0.2", got.Says)
	got = do(t, `{"sum": "height-angles", "distance": "25 m", "along": "slope", "slope": "20 %", "top": "70 %", "base": "10 %"}`)
	r := rand.New(rand.NewPCG(1, 8))
	var all []float64
	for range 200_000 {
		d, s := 25*(1+0.005*r.NormFloat64()), 0.2+0.005*r.NormFloat64()
		top, base := 0.7+0.005*r.NormFloat64(), 0.1+0.005*r.NormFloat64()
		all = append(all, d*math.Cos(math.Atan(s))*(top-base))
	}
	mean, squares := 0.0, 0.0
	for _, x := range all {
		mean += x / float64(len(all))
	}
	for _, x := range all {
		squares += (x - mean) * (x - mean) / float64(len(all))
	}
	require.InEpsilon(t, math.Sqrt(squares), *got.SD, 0.01)
	paced := do(t, `{"sum": "height-angles", "distance": "20 m", "distance_by": "pacing", "top": "62 %", "base": "-8 %"}`)
	require.Greater(t, *paced.SD, 3*0.158)
	for _, asked := range []string{`{"sum": "crown", "height": "20 m", "base": "8 m", "widths": ["5 m", "7 m"]}`,
		`{"sum": "stand-density", "stems_per_ha": 800, "quadratic_mean": "20 cm"}`} {
		require.Positive(t, *do(t, asked).SD, asked)
	}
	require.Positive(t, do(t, `{"sum": "crown", "height": "20 m", "base": "8 m", "widths": ["5 m", "7 m"]}`).Parts["mean_width_m_sd"])
	several := do(t, `{"sum": "basal-area", "diameter": "30; 31; 32 cm"}`)
	require.InEpsilon(t, math.Pi/2*0.31*0.01/math.Sqrt(3), *several.SD, 1e-3, "the readings say it themselves")
}

// FuzzDo: whatever is asked, a sum answers with a value or with why not, never with both, and no value that is none.
func FuzzDo(f *testing.F) {
	f.Add("height-angles", "distance", "20 m", "top", "62 %")
	f.Add("basal-area", "diameter", "5 ft 0 in", "diameter_by", "eye")
	f.Add("sweep", "factor", "10 ft2/ac", "diameters", "x")
	f.Fuzz(func(t *testing.T, sum, a, av, b, bv string) {
		asked := map[string]json.RawMessage{}
		for k, v := range map[string]string{"sum": sum, a: av, b: bv} {
			text, err := json.Marshal(v)
			require.NoError(t, err)
			asked[k] = text
		}
		got := sums.Do(asked)
		require.Equal(t, got.Error == "", got.Value != nil)
		if got.Value != nil {
			require.False(t, math.IsNaN(*got.Value) || math.IsInf(*got.Value, 0))
		}
	})
}
