package fit_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/weigh/fit"
	"palethicket/core/weigh/specimen"
)

// TestOddnessIsStandard: over specimens drawn from a taxon, how odd they are for it is 0 on
// average, with a standard deviation of 1.
func TestOddnessIsStandard(t *testing.T) {
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
		odd := judge.Alone(looks, who).Odd
		sum, squares = sum+odd, squares+odd*odd
	}
	mean := sum / n
	require.InDelta(t, 0, mean, 4/math.Sqrt(n))
	require.InDelta(t, 1, math.Sqrt(squares/n-mean*mean), 0.1)
}

// TestPiecemeal: a tree with the bark of one hickory and the twig of another fits neither
// as well as it fits whichever shows each mark.
func TestPiecemeal(t *testing.T) {
	p := pool(t)
	judge := fit.NewJudge(p.Model)
	shagbark, ok := p.Find("Carya ovata")
	require.True(t, ok)
	bitternut, ok := p.Find("Carya cordiformis")
	require.True(t, ok)
	d := specimen.NewDrawer(p.Model, rand.NewPCG(4, 4))
	looks := asked(t, p)
	looks[0].Belongs, looks[1].Belongs = 1, 1
	d.Look(shagbark, &looks[0])
	d.Look(bitternut, &looks[1])
	both := judge.Piecemeal(looks, []int{shagbark, bitternut})
	for _, one := range []int{shagbark, bitternut} {
		alone := judge.Alone(looks, one)
		require.LessOrEqual(t, alone.Log, both.Log)
		require.Equal(t, alone, judge.Piecemeal(looks, []int{one, one}))
	}
	parts := judge.Piecemeal(looks[:1], []int{shagbark, bitternut}).Log + judge.Piecemeal(looks[1:], []int{shagbark, bitternut}).Log
	require.InDelta(t, parts, both.Log, 1e-9)
}
