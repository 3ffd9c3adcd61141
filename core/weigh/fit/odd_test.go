package fit_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/weigh/fit"
	"palethicket/core/weigh/specimen"
)

// TestBlendIsStandard: over specimens drawn from a taxon, how odd they are for it is 0 on
// average, with a standard deviation of 1.
func TestBlendIsStandard(t *testing.T) {
	p := pool(t)
	const n = 3000
	d := specimen.NewDrawer(p.Model, rand.NewPCG(3, 3))
	judge := fit.NewJudge(p.Model)
	looks := asked(t, p)
	for i := range looks {
		looks[i].Belongs = 1 // no strangers
	}
	sum, squares := 0.0, 0.0
	for range n {
		who := d.Taxon()
		for l := range looks {
			d.Look(who, &looks[l])
		}
		odd := judge.Blend(looks, []int{who}).Odd
		sum, squares = sum+odd, squares+odd*odd
	}
	mean := sum / n
	require.InDelta(t, 0, mean, 4/math.Sqrt(n))
	require.InDelta(t, 1, math.Sqrt(squares/n-mean*mean), 0.1)
}

// TestBlendMixesScoreByScore: of one score, the chance of a blend is the mean of those of
// its taxa; of several it is the product of such means, more than either taxon's own where
// each shows half of the marks.
func TestBlendMixesScoreByScore(t *testing.T) {
	p := pool(t)
	judge := fit.NewJudge(p.Model)
	shagbark, ok := p.Find("Carya ovata")
	require.True(t, ok)
	bitternut, ok := p.Find("Carya cordiformis")
	require.True(t, ok)
	d := specimen.NewDrawer(p.Model, rand.NewPCG(4, 4))
	looks := asked(t, p)
	for l := range looks {
		d.Look(shagbark, &looks[l])
	}
	chance := func(scores int, taxa ...int) float64 {
		one := looks[:1:1]
		one[0].Scores = one[0].Scores[:scores]
		return math.Exp(judge.Blend(one, taxa).Log)
	}
	first := (chance(1, shagbark) + chance(1, bitternut)) / 2
	require.InEpsilon(t, first, chance(1, shagbark, bitternut), 1e-9)
}
