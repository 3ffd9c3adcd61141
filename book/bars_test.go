package book_test

import (
	"bytes"
	"encoding/csv"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/stand/worklist"
)

// cherry starts a tree that probably is a black cherry and is not named so: black, scaly bark.
func cherry(t testing.TB, b *book.Book, tag string) (tree, look1 string) {
	t.Helper()
	tree = started(t, b, tag)
	look1 = look(t, b, tree, "tree")
	add(t, b, tree, book.Entry{Kind: "facts", Facts: &book.SetFacts{Age: to("mature")}})
	add(
		t,
		b,
		tree,
		book.Entry{
			Kind:  "score",
			Look:  look1,
			Score: &book.Score{Character: "bark.texture", States: []string{"small-scales"}, Certainty: "sure"},
		},
	)
	scored(t, b, tree, look1, "bark.color", "near-black")
	return tree, look1
}

// exported is the row of a tree's tag in the CSV file of all trees.
func exported(t testing.TB, b *book.Book, tag string) map[string]string {
	t.Helper()
	var file bytes.Buffer
	require.NoError(t, b.Export(t.Context(), &file, book.Query{}, "csv", book.About{Title: "Lantern Creek"}))
	rows, err := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(file.Bytes(), []byte("\ufeff")))).ReadAll()
	require.NoError(t, err)
	for _, row := range rows[1:] {
		out := map[string]string{}
		for i, cell := range row {
			out[rows[0][i]] = cell
		}
		if out["tag"] == tag {
			return out
		}
	}
	require.FailNow(t, "no such row", tag)
	return nil
}

// TestThreeStepsEverywhere follows a tree from not yet, over probably, to named, through
// lists, filters, the worklist, the map, the story, the report and files.
func TestThreeStepsEverywhere(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree, at := cherry(t, b, "LC-1")
	line := func(status string) *book.TreeLine {
		list, err := b.Trees(t.Context(), book.Query{Status: []string{status}}, 10, 0)
		require.NoError(t, err)
		if list.Total == 0 {
			return nil
		}
		return &list.Trees[0]
	}
	l := line(worklist.Probable)
	require.NotNil(t, l)
	require.Equal(t, "Probably black cherry", l.Words)
	require.Equal(t, []string{"species", "Prunus serotina"}, []string{l.ProbableRank, l.Probable})
	open, err := b.Worklist(t.Context(), book.Query{Status: []string{worklist.Probable}}, 10, 0)
	require.NoError(t, err)
	require.Equal(t, 1, open.Total)
	require.Contains(t, open.Trees[0].Why, "Probably black cherry (")
	require.Equal(t, worklist.DoLook, open.Trees[0].Do)

	named(t, b, tree, "species", "Prunus serotina")
	l = line(worklist.Probable)
	require.NotNil(t, l, "a name that is probable stays so when it is written down")
	require.Equal(t, "probably black cherry", l.GivenWords)
	require.Equal(t, []string{"Prunus serotina", "cf.", "probable"}, three(exported(t, b, "LC-1")))
	s, err := b.Story(t.Context(), tree)
	require.NoError(t, err)
	last := s.Steps[len(s.Steps)-1]
	require.Equal(t, "probably", s.Step)
	require.Contains(t, last.Then, "Probably: the evidence then gave it")
	require.Contains(t, last.Flag, "it would take 90 % to carry it")
	r, err := b.Report(t.Context(), "", "")
	require.NoError(t, err)
	require.Equal(t, 1, r.Statuses[worklist.Probable])
	require.Equal(t, "probably black cherry", r.Names[0].English)

	add(
		t,
		b,
		tree,
		book.Entry{
			Kind:  "score",
			Look:  at,
			Score: &book.Score{Character: "twig.scent", States: []string{"bitter-almond"}, Certainty: "sure"},
		},
	)
	require.Nil(t, line(worklist.Probable))
	require.NotNil(t, line(worklist.Named))
	require.Equal(t, []string{"Prunus serotina", "", "named"}, three(exported(t, b, "LC-1")))
	named(t, b, tree, "species", "Quercus alba")
	require.NotNil(t, line(worklist.Doubtful))
	require.Equal(t, []string{"Quercus alba", "?", "doubtful"}, three(exported(t, b, "LC-1")))
	require.Contains(t, line(worklist.Doubtful).Doubt, "<1 %")
}

func three(row map[string]string) []string {
	return []string{row["given"], row["qualifier"], row["status"]}
}

// TestProbablyFrom: what counts as probable is set for the whole book; trees are weighed
// again for it, it stays when the book is opened again, and goes along with a device.
func TestProbablyFrom(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	b := booktest.At(t, path)
	tree, _ := cherry(t, b, "LC-1")
	home, err := b.FloraDigest()
	require.NoError(t, err)
	require.Equal(t, worklist.Probable, standing(t, b, tree).Status)
	require.NoError(t, b.PutProbably(t.Context(), 0.85))
	b.Settle()
	require.Equal(t, worklist.Open, standing(t, b, tree).Status)
	require.InDelta(t, 0.85, b.Vocabulary().Bars.Probably, 1e-9)
	now, err := b.FloraDigest()
	require.NoError(t, err)
	require.NotEqual(t, home, now, "a device that took trees along notices")

	for _, p := range []float64{0, 0.5, 0.9, 1.2, -1} {
		err := b.PutProbably(t.Context(), p)
		require.ErrorContains(t, err, "want a chance from 0.55 to 0.85", "%v", p)
	}
	opt := booktest.Options(t)
	opt.Away = true
	device := booktest.Opened(t, filepath.Join(t.TempDir(), "device.db"), opt)
	require.ErrorIs(t, device.PutProbably(t.Context(), 0.75), book.ErrAwayBars)
	require.NoError(t, b.Close())
	again := booktest.At(t, path)
	require.InDelta(t, 0.85, again.Bars().Probably, 1e-9)
	require.NoError(t, again.WeighStale(t.Context(), func(int, int) { t.Error("nothing is stale") }))
}
