package spring_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/stand/spring"
)

func TestOf(t *testing.T) {
	got := spring.Of([]spring.Name{
		{Taxon: "Quercus rubra", By: "Ines", Rank: "species", P: 0.95, Right: true},
		{Taxon: "Quercus rubra", By: "Ines", Rank: "genus", P: 0.99, Right: true},
		{Taxon: "Quercus velutina", By: "Tomasz", Rank: "species", P: 0.85},
		{Taxon: "Acer rubrum", By: "Tomasz", Rank: "species", P: 1, Right: true},
		{Taxon: "Acer rubrum", By: "Tomasz", Rank: "species", Right: true}, // an old inventory's: no chance is known
	})
	require.Equal(t, [2]int{4, 5}, [2]int{got.All.N, got.All.Of})
	require.Equal(t, 4, got.Told)
	require.InDelta(t, 0.95+0.99+0.85+1, got.Expected, 1e-12)
	require.InDelta(t, (0.05*0.05+0.01*0.01+0.85*0.85)/4, got.Brier, 1e-12)
	require.Equal(t, "Quercus velutina", got.ByTaxon[0].Name, "the worst first")
	require.Equal(t, []float64{0.8, 0.95, 0.99}, []float64{got.Bins[0].From, got.Bins[1].From, got.Bins[2].From})
	require.Equal(t, 2, got.Bins[2].Right.Of)
	require.Equal(t, [2]int{2, 3}, [2]int{got.ByObserver[1].Right.N, got.ByObserver[1].Right.Of})
	require.Equal(t, 0, spring.Of(nil).All.Of)
}

// TestHonestChancesShowSo draws names that are right as often as their chances say: each bin's
// interval then holds its mean, mostly, and as many are right as expected.
func TestHonestChancesShowSo(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 20))
	held, bins := 0, 0
	for range 200 {
		var names []spring.Name
		for range 60 {
			p := 1 - 0.6*r.Float64()*r.Float64()
			names = append(names, spring.Name{Taxon: "Tilia americana", P: p, Right: r.Float64() < p})
		}
		for _, b := range spring.Of(names).Bins {
			bins++
			if b.Right.From <= b.Mean && b.Mean <= b.Right.To {
				held++
			}
		}
	}
	require.Greater(t, float64(held)/float64(bins), 0.9)
}
