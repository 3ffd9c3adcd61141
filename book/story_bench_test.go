package book_test

import (
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
)

// longLog is a tree whose log has so many entries, in looks of 24 scores.
func longLog(t testing.TB, b *book.Book, entries int) (tree string) {
	t.Helper()
	tree = ulid.Make().String()
	states := []record.Score{{Character: "bark.texture", States: []string{"smooth"}}, {Character: "bark.color", States: []string{"mid-grey"}},
		{
			Character: "twig.arrangement",
			States:    []string{"opposite"},
		}, {Character: "bud.coat", States: []string{"bare"}}, {Character: "twig.color", States: []string{"brown"}}}
	var log []logbook.Entry
	look := ""
	for i := range entries {
		e := logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindScore, Look: look, Score: &states[i%len(states)]}
		if i%25 == 0 {
			look = e.ID
			e = logbook.Entry{ID: look, Kind: logbook.KindLook, From: "tree"}
		}
		log = append(log, e)
	}
	require.NoError(t, b.AddTrees(t.Context(), []book.TreeLog{{Tree: book.Tree{ID: tree, Tag: "LC-1", Tract: tract, Stand: slope,
		Region: "eastern-north-america"}, Log: log}}))
	return tree
}

// BenchmarkStory tells the story of a tree with 1 500 entries.
func BenchmarkStory(b *testing.B) {
	home := booktest.New(b)
	tree := longLog(b, home, 1500)
	for b.Loop() {
		s, err := home.Story(b.Context(), tree)
		require.NoError(b, err)
		require.Len(b, s.Steps, 1501)
	}
}

// TestALongStory: it grows with its entries, not with their cube; 1 500 took a minute.
func TestALongStory(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree := longLog(t, b, 1500)
	began := time.Now()
	s, err := b.Story(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, s.Steps, 1501)
	t.Logf("%s", time.Since(began))
}
