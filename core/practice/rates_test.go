package practice_test

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/practice"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/ranking"
	"palethicket/core/weigh/specimen"
)

func TestRatesOf(t *testing.T) {
	t.Parallel()
	word := practice.Card{Kind: practice.Word, Character: "bark.texture", State: "smooth"}.ID()
	var reviews []practice.Review
	for i := range 40 {
		verdict := practice.Right
		if i%4 == 0 {
			verdict = practice.Wrong
		}
		reviews = append(reviews, practice.Review{Card: word, Sure: "sure", Verdict: verdict})
	}
	reviews = append(reviews, practice.Review{Card: word, Verdict: practice.NoIdea},
		practice.Review{Card: "twig:Acer rubrum", Sure: "sure", Verdict: practice.Wrong})
	rates, n := practice.RatesOf(reviews, record.ErrorRate)
	require.Equal(t, 40, n, "what was not known, and names of trees, are no misreadings")
	require.InDelta(t, (10+20*record.ErrorRate["sure"])/60, rates["sure"], 1e-12)
	require.Equal(t, record.ErrorRate["guess"], rates["guess"], "nothing said: the usual")
	none, n := practice.RatesOf(nil, record.ErrorRate)
	require.Zero(t, n)
	require.Equal(t, practice.Rates(record.ErrorRate), none)
}

// said is how well posteriors said what came: the mean of −log2 of what the tree was given, and how far
// the leaders' chances are from how often they were right.
type said struct {
	loss, chance, hits float64
	n                  int
}

func (s *said) add(post []float64, is int) {
	lead := 0
	for h, p := range post {
		if p > post[lead] {
			lead = h
		}
	}
	s.n++
	s.loss -= math.Log2(max(post[is], 1e-9))
	s.chance += post[lead]
	if lead == is {
		s.hits++
	}
}

func (s *said) off() float64 { return math.Abs(s.chance-s.hits) / float64(s.n) }

// TestOwnRatesOnDrawnCrews: eight observers misread from half as often as usual to six times; what sixty
// word cards of each say of them has their trees weighed better, and their chances nearer to the truth.
func TestOwnRatesOnDrawnCrews(t *testing.T) {
	t.Parallel()
	f := teacher(t).Flora
	pool, err := f.Pool(flora.PoolKey{Among: here, Age: flora.At(flora.Mature)})
	require.NoError(t, err)
	var chars []int
	for _, id := range []string{"bark.texture", "bark.color", "twig.color", "bud.shape", "bud.coat", "scar.shape", "twig.arrangement", "bud.tip"} {
		at, ok := pool.Index(id, flora.Breast)
		require.True(t, ok, id)
		chars = append(chars, at)
	}
	src := rand.NewPCG(1979, 20)
	r, draw := rand.New(src), specimen.NewDrawer(pool.Model, src)
	usual, own := said{}, said{}
	ranker := ranking.NewRanker(pool.Model)
	word := practice.Card{Kind: practice.Word, Character: "bark.texture", State: "smooth"}.ID()
	for _, times := range []float64{0.5, 0.7, 1, 1.5, 2, 3, 4.5, 6} {
		truth := min(0.6, times*record.ErrorRate["fair"])
		var reviews []practice.Review
		for range 60 {
			verdict := practice.Right
			if r.Float64() < truth {
				verdict = practice.Wrong
			}
			reviews = append(reviews, practice.Review{Card: word, Sure: "fair", Verdict: verdict})
		}
		rates, _ := practice.RatesOf(reviews, record.ErrorRate)
		for range 250 {
			taxon := draw.Taxon()
			look := evidence.Look{Belongs: 1}
			for _, c := range chars {
				if k := pool.Model.Taxa()[taxon].Values[c].Knowledge; k == evidence.Known && r.Float64() < 0.7 {
					look.Scores = append(look.Scores, evidence.Score{Character: c, States: 1, Error: truth})
				}
			}
			draw.Look(taxon, &look)
			look.Belongs = record.Belonging["tree"]
			weigh := func(rate float64, into *said) {
				as := evidence.Look{Belongs: look.Belongs, Scores: slices.Clone(look.Scores)}
				for i := range as.Scores {
					as.Scores[i].Error = rate
				}
				into.add(ranker.Rank([]evidence.Look{as}).Posterior, taxon)
			}
			weigh(record.ErrorRate["fair"], &usual)
			weigh(rates["fair"], &own)
		}
	}
	t.Logf("usual rates: %.3f bits lost a tree, chances off by %.3f; own: %.3f bits, off by %.3f", usual.loss/float64(usual.n), usual.off(),
		own.loss/float64(own.n), own.off())
	require.Less(t, own.loss, usual.loss)
	require.Less(t, own.off(), usual.off())
}
