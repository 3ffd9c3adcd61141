package fit_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/fit"
	"palethicket/core/weigh/specimen"
)

func pool(t testing.TB) *flora.Pool {
	f := floratest.Shipped(t)
	p, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: "eastern-north-america"}, Age: flora.At(flora.Mature)})
	require.NoError(t, err)
	return p
}

// asked are looks with one character of every kind, to be answered by specimens.
func asked(t testing.TB, p *flora.Pool) []evidence.Look {
	score := func(id string) evidence.Score {
		i, ok := p.Index(id, flora.Breast)
		require.True(t, ok)
		s := evidence.Score{Character: i, Error: 0.1, Spread: 0.1, Readings: 1, Detect: 0.6, False: 0.02}
		if id == "twig.arrangement" {
			s.Nodes = 6
		}
		return s
	}
	return []evidence.Look{
		{Belongs: 0.99, Scores: []evidence.Score{score("bark.texture"), score("bark.color"), score("form.dbh"), score("form.suckers")}},
		{Belongs: 0.80, Scores: []evidence.Score{score("twig.arrangement"), score("twig.color"), score("bud.length"), score("twig.zigzag")}},
	}
}

// TestTailsAreEvenlySpread draws specimens and judges each against its own
// taxon: a tail share of x or less must come up with chance x.
func TestTailsAreEvenlySpread(t *testing.T) {
	p := pool(t)
	const n = 1500
	d := specimen.NewDrawer(p.Model, rand.NewPCG(7, 7))
	judge := fit.NewJudge(p.Model)
	looks := asked(t, p)
	tails := make([]float64, n)
	for i := range tails {
		who := d.Taxon()
		for l := range looks {
			d.Look(who, &looks[l])
		}
		tails[i] = judge.Tail(looks, who, fit.Draws{Most: 400})
	}
	for _, x := range []float64{0.05, 0.2, 0.5, 0.8} {
		below := 0
		for _, tail := range tails {
			if tail <= x {
				below++
			}
		}
		// 2.576 standard deviations hold 99 % of a binomial; scores come in
		// steps, so a tail may only be as large as x, or larger.
		most := x + 2.576*math.Sqrt(x*(1-x)/n)
		require.LessOrEqual(t, float64(below)/n, most, "tail share %v or less", x)
		require.Greater(t, float64(below)/n, x/2, "tail share %v or less", x)
	}
}

// TestStoppingEarlyAgrees holds the quick tail to the slow one within four of
// its standard errors.
func TestStoppingEarlyAgrees(t *testing.T) {
	p := pool(t)
	d := specimen.NewDrawer(p.Model, rand.NewPCG(3, 3))
	judge := fit.NewJudge(p.Model)
	looks := asked(t, p)
	for range 60 {
		who := d.Taxon()
		for l := range looks {
			d.Look(who, &looks[l])
		}
		slow := judge.Tail(looks, who, fit.Draws{Most: 20000})
		quick := judge.Tail(looks, who, fit.Draws{Most: 2000, Enough: 100})
		require.InDelta(t, slow, quick, 4*slow/10+0.004)
	}
}

func TestStrangeTreesFitBadly(t *testing.T) {
	p := pool(t)
	judge := fit.NewJudge(p.Model)
	oak, ok := p.Find("Quercus alba")
	require.True(t, ok)
	look := func(states map[string]string) []evidence.Look {
		l := evidence.Look{Belongs: 0.99}
		for id, state := range states {
			i, _ := p.Index(id, flora.Breast)
			c, _ := p.Character(i)
			l.Scores = append(l.Scores, evidence.Score{Character: i, Error: 0.02, States: 1 << c.State(state)})
		}
		return []evidence.Look{l}
	}
	usual := look(map[string]string{"bud.tip": "cluster-at-end", "bud.shape": "egg", "fruit.kind": "acorn", "twig.hair": "none"})
	odd := look(map[string]string{"bud.tip": "side-bud-at-end", "bud.shape": "flat-paddle", "fruit.kind": "acorn", "twig.hair": "velvety"})
	require.Greater(t, judge.Tail(usual, oak, fit.Usual), 0.2)
	require.Less(t, judge.Tail(odd, oak, fit.Usual), 0.01)
	require.Equal(t, judge.Tail(odd, oak, fit.Usual), judge.Tail(odd, oak, fit.Usual), "the same tree, the same answer")
}
