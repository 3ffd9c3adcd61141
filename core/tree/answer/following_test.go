package answer_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
)

// TestFollowing grows a record a score at a time: each step answers as if the record
// had come whole, whatever changed and whatever could not be read meanwhile.
func TestFollowing(t *testing.T) {
	t.Parallel()
	e := engine(t)
	f := e.Follow()
	defer f.Close()
	rng := rand.New(rand.NewPCG(7, 7))
	states := map[string][]string{"bark.texture": {"smooth", "mesh-ridges", "warty-ridges"}, "twig.arrangement": {"opposite", "alternate"},
		"bud.coat": {"bare", "downy"}, "needle.kept": {"bare", "needles"}}
	rec := &record.Record{ID: "LC-1", Region: "eastern-north-america"}
	same := func(changed int) {
		t.Helper()
		want, err := e.Identify(rec, answer.Options{})
		got, errStep := f.Step(rec, changed)
		require.Equal(t, err != nil, errStep != nil)
		if err == nil {
			require.Equal(t, want.Named, got.Named)
			require.Len(t, got.Ranking, len(want.Ranking))
			for i := range want.Ranking {
				require.Equal(t, want.Ranking[i].Taxon, got.Ranking[i].Taxon)
				require.InDelta(t, want.Ranking[i].Posterior, got.Ranking[i].Posterior, 1e-12)
			}
		}
	}
	same(-1)
	for range 200 {
		switch n := rng.IntN(12); {
		case n == 0 || len(rec.Looks) == 0:
			rec.Looks = append(rec.Looks, record.Look{From: []string{"tree", "crown", "litter"}[rng.IntN(3)]})
			same(-1)
		case n == 1:
			rec.Age = []string{"", "young", "old"}[rng.IntN(3)]
			same(-1)
		case n == 2:
			at := rng.IntN(len(rec.Looks))
			rec.Looks[at].Scores = append(rec.Looks[at].Scores, record.Score{Character: "twig.misspelt", States: []string{"x"}})
			same(at)
			rec.Looks[at].Scores = rec.Looks[at].Scores[:len(rec.Looks[at].Scores)-1]
			same(at)
		default:
			at := rng.IntN(len(rec.Looks))
			c := []string{"bark.texture", "twig.arrangement", "bud.coat", "needle.kept"}[rng.IntN(len(states))]
			of := states[c]
			rec.Looks[at].Scores = append(rec.Looks[at].Scores, record.Score{Character: c, States: []string{of[rng.IntN(len(of))]}})
			same(at)
		}
	}
}
