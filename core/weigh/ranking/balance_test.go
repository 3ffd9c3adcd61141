package ranking_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/ranking"
)

// without copies looks without one score.
func without(looks []evidence.Look, look, score int) []evidence.Look {
	out := slices.Clone(looks)
	out[look].Scores = slices.Delete(slices.Clone(out[look].Scores), score, score+1)
	return out
}

// twoOf draws two different hypotheses.
func twoOf(t *rapid.T, hypotheses int) (a, b int) {
	a = rapid.IntRange(0, hypotheses-1).Draw(t, "a")
	b = rapid.IntRange(0, hypotheses-2).Draw(t, "b")
	if b >= a {
		b++
	}
	return a, b
}

// TestWeightsOfEvidenceAddUp: posterior odds are prior odds times the weight of
// each look (Good 1950, ch. 6).
func TestWeightsOfEvidenceAddUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := aModel(t)
		looks := someLooks(t, m)
		v := ranking.NewRanker(m).Rank(looks)
		a, b := twoOf(t, m.Hypotheses())
		bits := ranking.BitsOf(m.Prior()[a], m.Prior()[b])
		for l := range looks {
			bits += v.Bits(l, a, b)
		}
		if v.Posterior[a] < 1e-250 || v.Posterior[b] < 1e-250 {
			t.Skip("beyond what a float64 tells apart")
		}
		require.InDelta(t, math.Log2(v.Posterior[a]/v.Posterior[b]), bits, 1e-6)
	})
}

// TestAScoresBits are those that its look loses without it.
func TestAScoresBits(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := aModel(t)
		looks := someLooks(t, m)
		l := rapid.IntRange(0, len(looks)-1).Draw(t, "look")
		s := rapid.IntRange(0, len(looks[l].Scores)-1).Draw(t, "score")
		a, b := twoOf(t, m.Hypotheses())
		r := ranking.NewRanker(m)
		with := r.Rank(looks).Bits(l, a, b)
		got := r.ScoreBits(looks, l, s, a, b)
		require.InDelta(t, with-ranking.NewRanker(m).Rank(without(looks, l, s)).Bits(l, a, b), got, 1e-6)
	})
}

// tied skips what has no single leader.
func tied(t *rapid.T, v *ranking.Verdict) {
	if order := v.Order(); v.Posterior[order[0]] < v.Posterior[order[1]]*(1+1e-9) {
		t.Skip("a tie")
	}
}

// TestFlipsAreThoseOfRankingAgain compares with leaving each score out and ranking
// what is left from the start.
func TestFlipsAreThoseOfRankingAgain(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := aModel(t)
		looks := someLooks(t, m)
		var want []ranking.Flip
		whole := ranking.NewRanker(m).Rank(looks)
		leader := whole.Leader()
		tied(t, whole)
		for l := range looks {
			for s := range looks[l].Scores {
				v := ranking.NewRanker(m).Rank(without(looks, l, s))
				if v.Leader() != leader {
					want = append(want, ranking.Flip{Look: l, Score: s, Leader: v.Leader()})
				}
				tied(t, v)
			}
		}
		r := ranking.NewRanker(m)
		r.Rank(looks)
		require.Equal(t, want, r.Flips(looks))
	})
}

// TestCredibleIsTheFewest: together they reach the level, without the last they do not.
func TestCredibleIsTheFewest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := aModel(t)
		v := ranking.NewRanker(m).Rank(someLooks(t, m))
		level := rapid.Float64Range(0.05, 0.999).Draw(t, "level")
		set := v.Credible(level)
		sum := 0.0
		for _, h := range set {
			sum += v.Posterior[h]
		}
		require.GreaterOrEqual(t, sum, level)
		require.Less(t, sum-v.Posterior[set[len(set)-1]], level)
	})
}

// TestOrderedKeepsToWhatItIsGiven, as thought experiments leave hypotheses out.
func TestOrderedKeepsToWhatItIsGiven(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := aModel(t)
		v := ranking.NewRanker(m).Rank(someLooks(t, m))
		few := slices.Clone(v.Order()[:2])
		v = v.Ordered(few)
		require.Equal(t, few, v.Order())
		require.Equal(t, few[0], v.Leader())
		require.Equal(t, few, v.Credible(2), "all that there are")
		require.Equal(t, m.Hypotheses()-1, v.Unlisted())
	})
}
