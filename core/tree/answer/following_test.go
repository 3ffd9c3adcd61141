package answer_test

import (
	"maps"
	"math/rand/v2"
	"slices"
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
		"bud.coat": {"bare", "downy"}, "needle.kept": {"bare", "needles"},
		"fruit.kind": {"acorn", "paired-keys"}, "ground.fruit": {"acorn", "spiny-bur"}, "needle.bundle": {"fives", "twos"}}
	characters := slices.Sorted(maps.Keys(states))
	rec := &record.Record{ID: "LC-1", Region: "eastern-north-america"}
	same := func() {
		t.Helper()
		want, err := e.Identify(rec, answer.Options{})
		got, errStep := f.Step(rec)
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
	same()
	for range 200 {
		switch n := rng.IntN(12); {
		case n == 0 || len(rec.Looks) == 0:
			rec.Looks = append(rec.Looks, record.Look{From: []string{"tree", "crown", "litter"}[rng.IntN(3)]})
			same()
		case n == 1:
			rec.Age = []string{"", "young", "old"}[rng.IntN(3)]
			same()
		case n == 2:
			at := rng.IntN(len(rec.Looks))
			rec.Looks[at].Scores = append(rec.Looks[at].Scores, record.Score{Character: "twig.misspelt", States: []string{"x"}})
			same()
			rec.Looks[at].Scores = rec.Looks[at].Scores[:len(rec.Looks[at].Scores)-1]
			same()
		default:
			at := rng.IntN(len(rec.Looks))
			c := characters[rng.IntN(len(characters))]
			of := states[c]
			rec.Looks[at].Scores = append(rec.Looks[at].Scores, record.Score{Character: c, States: []string{of[rng.IntN(len(of))]}})
			same()
		}
	}
}
