package composition_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"palethicket/core/stand/composition"
)

// exact is the distribution of the number of stems by plain convolution.
func exact(ps []float64) []float64 {
	dist := []float64{1}
	for _, p := range ps {
		next := make([]float64, len(dist)+1)
		for k, d := range dist {
			next[k] += d * (1 - p)
			next[k+1] += d * p
		}
		dist = next
	}
	return dist
}

// TestIntervalsAgainstConvolution holds the approximation to the exact Poisson
// binomial: the interval holds about 95 %, and never much less.
func TestIntervalsAgainstConvolution(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 2))
	for _, n := range []int{1, 3, 10, 40, 200} {
		for range 50 {
			ps := make([]float64, n)
			sum := composition.Sums{Taxon: "Acer rubrum"}
			for i := range ps {
				ps[i] = rng.Float64() * rng.Float64()
				sum.Add(ps[i], 0)
			}
			s := composition.Shares(n, 0, []composition.Sums{sum})[0]
			held := 0.0
			for k, d := range exact(ps) {
				if float64(k) >= s.StemsFrom && float64(k) <= s.StemsTo {
					held += d
				}
			}
			require.GreaterOrEqual(t, held, 0.93, "n=%d ps=%v interval %v to %v", n, ps, s.StemsFrom, s.StemsTo)
		}
	}
}

func TestCertainTreesLeaveNoDoubt(t *testing.T) {
	var oak, maple composition.Sums
	oak.Taxon, maple.Taxon = "Quercus alba", "Acer rubrum"
	for range 7 {
		oak.Add(1, composition.BasalArea(30))
		maple.Add(0, composition.BasalArea(30))
	}
	s := composition.Shares(7, 7*composition.BasalArea(30), []composition.Sums{maple, oak})
	require.Equal(t, "Quercus alba", s[0].Taxon)
	require.Equal(t, []float64{7, 7, 7}, []float64{s[0].Stems, s[0].StemsFrom, s[0].StemsTo})
	require.InDelta(t, s[0].Area, s[0].AreaFrom, 1e-12)
	require.Equal(t, []float64{0, 0, 0}, []float64{s[1].Stems, s[1].StemsFrom, s[1].StemsTo})
}

// The forester's rule: a stem 100 cm through covers 0.7854 m² (Avery and
// Burkhart, "Forest Measurements", from memory).
func TestBasalArea(t *testing.T) {
	require.InDelta(t, 0.7854, composition.BasalArea(100), 5e-5)
	require.InDelta(t, 0.0707, composition.BasalArea(30), 5e-5)
}

func TestHere(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		shares := map[string]float64{"a": 0.5, "b": 0.3, "c": 0.2}
		own := map[string]float64{"a": rapid.Float64Range(0, 1e4).Draw(t, "a"), "c": rapid.Float64Range(0, 1e4).Draw(t, "c")}
		got := composition.Here(shares, own)
		require.InDelta(t, 1, got["a"]+got["b"]+got["c"], 1e-12)
		require.Positive(t, got["b"], "what was never found here stays possible")
	})
	got := composition.Here(map[string]float64{"a": 0.5, "b": 0.5}, map[string]float64{"a": 20})
	require.InDelta(t, 0.75, got["a"], 1e-12, "twenty of flora and twenty of the stand")
	require.False(t, math.IsNaN(composition.Here(map[string]float64{"a": 1}, nil)["a"]))
}
