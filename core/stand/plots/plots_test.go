package plots

import (
	"encoding/json"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/measure/sums"
)

func sweep(factor float64, d ...float64) Point {
	p := Point{Factor: factor}
	for _, x := range d {
		p.Stems = append(p.Stems, Stem{Diameter: x})
	}
	return p
}

// TestWorked: the worked example of a sweep of 2 m²/ha over 24, 31, 31, 42, 55 cm
// (docs/measures.md): 10 m²/ha, 120.1 stems, 32.57 cm.
func TestWorked(t *testing.T) {
	got := Of([]Point{sweep(2, 24, 31, 31, 42, 55)})
	require.InDelta(t, 10, got.Area.Mean, 1e-9)
	require.InDelta(t, 120.1, got.Stems.Mean, 0.05)
	require.InDelta(t, 32.57, got.Quadratic, 0.005)
	require.True(t, math.IsNaN(got.Area.SE))
	require.Zero(t, got.Needed(0.1))
}

// TestErrors: points of 10, 12, 14 m²/ha have mean 12, standard error 2/√3, and ±4.303 of
// those at 95 % (t of 2 degrees, as tables print it).
func TestErrors(t *testing.T) {
	got := Of([]Point{sweep(2, 30, 30, 30, 30, 30), sweep(2, 30, 30, 30, 30, 30, 30), sweep(2, 30, 30, 30, 30, 30, 30, 30)})
	require.InDelta(t, 12, got.Area.Mean, 1e-9)
	require.InDelta(t, 1.1547, got.Area.SE, 1e-4)
	require.InDelta(t, 12-4.303*1.1547, got.Area.From, 1e-3)
	require.Equal(t, 14, got.Needed(0.1)) // (2.160·16.67/10)² = 12.97 with t of 13 degrees, and 13 with t of 12: 13.2
}

// TestNames: what stems are counts by chance, what is not named stands apart, and a stem on
// the border counts half.
func TestNames(t *testing.T) {
	p := Point{Radius: 11.283792, Stems: []Stem{ // 1/25 ha
		{Diameter: 30, Names: map[string]float64{"Quercus rubra": 0.75, "Quercus velutina": 0.25}},
		{Diameter: 20, Half: true, Names: map[string]float64{"Acer rubrum": 1}},
		{Diameter: 10},
	}}
	got := Of([]Point{p})
	require.InDelta(t, 25*2.5, got.Stems.Mean, 1e-3)
	require.Equal(t, []string{"Quercus rubra", "Quercus velutina", "Acer rubrum", ""},
		[]string{got.Taxa[0].Name, got.Taxa[1].Name, got.Taxa[2].Name, got.Taxa[3].Name})
	require.InDelta(t, 25*0.75, got.Taxa[0].Stems.Mean, 1e-3)
	require.InDelta(t, 12.5, got.Taxa[2].Stems.Mean, 1e-3)
	bare := Of([]Point{{Factor: 2, Stems: []Stem{{}, {Diameter: 30}}}})
	require.InDelta(t, 4, bare.Area.Mean, 1e-9)
	require.True(t, math.IsNaN(bare.Stems.Mean))
	require.Equal(t, 1, bare.Unmeasured)
	empty := Of([]Point{{Factor: 2}, {Factor: 2}})
	require.Zero(t, empty.Area.Mean)
}

// TestDrawnWood: angle counts and fixed plots in a drawn wood both find its basal area and
// stems, within their own errors.
func TestDrawnWood(t *testing.T) {
	rng := rand.New(rand.NewPCG(5, 5))
	const side, stems = 400.0, 6400 // 16 ha, 400 stems per hectare
	type tree struct{ x, y, d float64 }
	wood, area := make([]tree, stems), 0.0
	for i := range wood {
		wood[i] = tree{rng.Float64() * side, rng.Float64() * side, 10 + 30*rng.Float64()}
		area += math.Pi * wood[i].d * wood[i].d / 40000 / (side * side / 1e4)
	}
	var counts, fixed []Point
	for range 120 {
		x, y := 60+rng.Float64()*(side-120), 60+rng.Float64()*(side-120)
		a, b := Point{Factor: 2}, Point{Radius: 10}
		for _, w := range wood {
			far := math.Hypot(w.x-x, w.y-y)
			if far <= w.d/(2*math.Sqrt2) { // the limiting distance, d/(2√k) m for d in cm
				a.Stems = append(a.Stems, Stem{Diameter: w.d})
			}
			if far <= b.Radius {
				b.Stems = append(b.Stems, Stem{Diameter: w.d})
			}
		}
		counts, fixed = append(counts, a), append(fixed, b)
	}
	for _, got := range []*Tally{Of(counts), Of(fixed)} {
		require.InDelta(t, area, got.Area.Mean, 3*got.Area.SE)
		require.Less(t, got.Area.SE/got.Area.Mean, 0.06)
		require.InDelta(t, 400, got.Stems.Mean, 3*got.Stems.SE)
	}
}

// TestPointsNeededAsTheSumSays: several sweeps and the points of a stand ask for as many points of the same counts.
func TestPointsNeededAsTheSumSays(t *testing.T) {
	t.Parallel()
	for _, counts := range [][]float64{{10, 12, 14, 8, 11}, {3, 9, 5, 12, 7, 6}, {10.5, 4, 9.5}, {6, 7}} {
		var points []Point
		asked := map[string]json.RawMessage{"sum": []byte(`"sweep-points"`), "factor": []byte(`"2 m2/ha"`)}
		for _, c := range counts {
			p := Point{Factor: 2}
			for n := c; n > 0; n-- {
				p.Stems = append(p.Stems, Stem{Diameter: 30, Half: n < 1})
			}
			points = append(points, p)
		}
		asked["counts"], _ = json.Marshal(counts)
		got := sums.Do(asked)
		require.Empty(t, got.Error)
		tally := Of(points)
		require.InDelta(t, *got.Value, tally.Area.Mean, 1e-9)
		require.InDelta(t, got.Parts["to"], tally.Area.To, 1e-9)
		require.Equal(t, int(got.Parts["points_for_10_percent"]), tally.Needed(0.1), counts)
	}
}
