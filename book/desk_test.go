package book_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/demo/demotest"
)

// TestSetAsideIsFound: what was set aside is listed by itself, found by its tag and by a
// name, and nowhere else.
func TestSetAsideIsFound(t *testing.T) {
	t.Parallel()
	b := demotest.New(t)
	tree := listOf(t, b, book.Query{Text: "LC-101"}).Trees[0]
	aside := true
	add(t, b, tree.ID, book.Entry{Kind: "facts", Facts: &book.SetFacts{Aside: &aside}})
	require.Zero(t, count(t, b, book.Query{Text: "LC-101"}))
	require.Equal(t, 399, count(t, b, book.Query{}))
	for _, q := range []book.Query{{Aside: true}, {Aside: true, Text: "lc 101"}, {Aside: true, Stand: tree.Stand}, {Aside: true, Sort: "last"}} {
		list := listOf(t, b, q)
		require.Equal(t, 1, list.Total, "%+v", q)
		require.Equal(t, "LC-101", list.Trees[0].Tag)
	}
	require.Zero(t, count(t, b, book.Query{Aside: true, Text: "LC-102"}))
}

// TestTwigInHand: the filter asks the book, whatever page is shown.
func TestTwigInHand(t *testing.T) {
	t.Parallel()
	b := demotest.New(t)
	all, err := b.Worklist(t.Context(), book.Query{}, 500, 0)
	require.NoError(t, err)
	want := 0
	for _, o := range all.Trees {
		if o.Home && o.Do != "write" {
			want++
		}
	}
	home, err := b.Worklist(t.Context(), book.Query{Home: true}, 3, 0)
	require.NoError(t, err)
	require.Equal(t, want, home.Total)
	require.Greater(t, home.Total, 3)
	for _, o := range home.Trees {
		require.True(t, o.Home)
	}
}

// TestWhatTheWorklistAsksFor: a ready tree is to be written down, one whose name the
// evidence gives another to be corrected.
func TestWhatTheWorklistAsksFor(t *testing.T) {
	t.Parallel()
	b := demotest.New(t)
	all, err := b.Worklist(t.Context(), book.Query{}, 500, 0)
	require.NoError(t, err)
	does := map[string]int{}
	for _, o := range all.Trees {
		does[o.Status+" "+o.Do]++
		if o.Status == "ready" {
			require.Equal(t, "write", o.Do)
			require.NotContains(t, o.Why, "come back")
		}
	}
	require.Positive(t, does["doubtful correct"], "%v", does)
}

// TestEitherIsNoDifference: of two states that were kept, the one that a tree usually has
// is no difference to it.
func TestEitherIsNoDifference(t *testing.T) {
	t.Parallel()
	b := demotest.New(t)
	tree := listOf(t, b, book.Query{Text: "LC-101"}).Trees[0]
	look := add(t, b, tree.ID, book.Entry{Kind: "look", From: "tree"})
	drawn := func() string {
		d, err := b.Drawn(t.Context(), tree.ID)
		require.NoError(t, err)
		return strings.Join(d.Leaders[0].Differs, "; ")
	}
	score := func(states ...string) {
		add(t, b, tree.ID, book.Entry{Kind: "score", Look: look, Score: &book.Score{Character: "twig.color", States: states}})
	}
	score("olive")
	require.Contains(t, drawn(), "Twig color")
	score("olive", "red-brown")
	require.NotContains(t, drawn(), "Twig color", "red oak's twigs usually are red brown")
}

// TestReportSaysWhatTheEvidenceGivesNow: a name of an older inventory that later looks bear
// out is not said to have 0 %.
func TestReportSaysWhatTheEvidenceGivesNow(t *testing.T) {
	t.Parallel()
	b := demotest.New(t)
	r, err := b.Report(t.Context(), "", "")
	require.NoError(t, err)
	require.NotEmpty(t, r.Names)
	for _, n := range r.Names {
		require.NotContains(t, n.Rests, " 0 %", n.Tag)
		if n.Flag == "" {
			require.NotContains(t, n.Rests, "favours another", n.Tag)
		}
	}
}
