package answer_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
)

// walk answers the questions of a key walk as a tree of the taxon usually
// would, and gives the record that it fills.
func walk(t *testing.T, e *answer.Engine, taxon string) (*record.Record, *answer.Walk) {
	rec := &record.Record{ID: "LC-1", Age: "mature", Looks: []record.Look{{From: "tree"}}}
	var skip []string
	for range 60 {
		w := weighed(t, e, rec).Walk(skip)
		if w.Settled || w.Question == nil {
			return rec, w
		}
		require.Len(t, w.Question.Options, 2)
		both := w.Question.Options[0].Chance + w.Question.Options[1].Chance
		require.True(t, both > 0.3 && both < 1+1e-9, "what is left of %v is that there is no such part", both)
		s := answerAs(e.Flora, taxon, w.Question)
		if s == nil {
			skip = append(skip, w.Question.Character)
			continue
		}
		rec.Looks[0].Scores = append(rec.Looks[0].Scores, *s)
	}
	t.Fatalf("the walk to %s does not end", taxon)
	return nil, nil
}

// answerAs picks the option that a mature taxon shows more often, or nil where
// it is not known.
func answerAs(f *flora.Flora, taxon string, q *answer.Question) *record.Score {
	c, e := f.Character(q.Character), f.Taxon(taxon).Entry(q.Character)
	v := e.Cells[flora.Mature][flora.Breast]
	if v.Dist == nil && v.Chance == 0 {
		return nil
	}
	for _, o := range q.Options {
		share := 0.0
		for _, s := range o.Score.States {
			share += v.Dist[c.State(s)]
		}
		if o.Score.Seen != nil && *o.Score.Seen == (v.Chance > 0.5) || share > 0.5 {
			return &o.Score
		}
	}
	return nil
}

// TestKeyWalksComeToAName walks to trees by either/or questions alone.
func TestKeyWalksComeToAName(t *testing.T) {
	e := engine(t)
	for taxon, name := range map[string]string{"Acer saccharum": "", "Fraxinus nigra": "", "Quercus alba": "", "Ulmus rubra": "",
		"Betula papyrifera": "", "Liriodendron tulipifera": "", "Juglans cinerea": "", "Larix laricina": "",
		"Carya ovata": "true hickories"} { // either/or leaves shagbark bark beside that of red hickory
		rec, w := walk(t, e, taxon)
		if name == "" {
			name = taxon
		}
		require.Equal(t, name, w.Named.Name, taxon)
		require.LessOrEqual(t, len(rec.Looks[0].Scores), 25, "questions to %s", taxon)
	}
}

// TestWalksAskTheReliableFirst holds the walk to what key walkers do: branching
// comes first, and a character that could not be answered is not asked again.
func TestWalksAskTheReliableFirst(t *testing.T) {
	e := engine(t)
	rec := &record.Record{ID: "LC-1", Looks: []record.Look{}}
	w := weighed(t, e, rec).Walk(nil)
	require.Equal(t, "twig.arrangement", w.Question.Character)
	require.Equal(t, "crown", w.Question.From)
	states := append(slices.Clone(w.Question.Options[0].Score.States), w.Question.Options[1].Score.States...)
	require.ElementsMatch(t, []string{"alternate", "subopposite", "opposite", "whorled"}, states)
	for i, o := range w.Question.Options {
		require.Equal(t, slices.Contains(o.Score.States, "alternate"), !slices.Contains(o.Score.States, "opposite"), "option %d: %s", i, o.Words)
	}
	w = weighed(t, e, rec).Walk([]string{"twig.arrangement"})
	require.NotEqual(t, "twig.arrangement", w.Question.Character)
	_, err := e.Weigh(&record.Record{Region: "nowhere"})
	require.ErrorContains(t, err, "unknown region")
}
