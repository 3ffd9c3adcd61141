package book_test

import (
	"testing"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
)

// TestTheVisitGoesFromTreeToTree: what is said of snow, light and reach holds for one's next trees of the day, until it is
// said otherwise, and for nobody else's.
func TestTheVisitGoesFromTreeToTree(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	first := started(t, b, "LC-1")
	second := ulid.Make().String() // was started before, by the same person on the same day
	_, err := b.AddTree(t.Context(), book.NewTree{ID: second, Tag: "LC-2", Tract: tract, Stand: slope, By: "Wren Halloran"})
	require.NoError(t, err)
	deep, poor, none := "deep", "poor", "none"
	add(t, b, first, book.Entry{Kind: "facts", Facts: &book.SetFacts{Snow: &deep, Light: &poor, Beyond: &[]string{"hand"}}})

	visit := func(tree string) []any {
		f := viewed(t, b, tree).Facts
		return []any{f.Snow, f.Light, f.Beyond}
	}
	plain := visit(second)
	require.Equal(t, "none", plain[0])
	look(t, b, second, "tree")
	require.Equal(t, []any{"deep", "poor", []string{"hand"}}, visit(second), "the first look is of the same visit")

	begin := func(tag, by string) string {
		id := ulid.Make().String()
		_, err := b.AddTree(t.Context(), book.NewTree{ID: id, Tag: tag, Tract: tract, Stand: slope, By: by})
		require.NoError(t, err)
		return id
	}
	third := begin("LC-3", "Wren Halloran")
	require.Equal(t, visit(second), visit(third), "a tree that is started too")
	require.Equal(t, plain, visit(begin("LC-4", "Tobias Okafor")), "another may stand on a ladder")

	add(t, b, third, book.Entry{Kind: "facts", Facts: &book.SetFacts{Snow: &none, Beyond: &[]string{}}})
	look(t, b, third, "crown")
	require.Equal(t, "none", visit(third)[0], "what was said here stands")
	require.Equal(t, []any{"none", "poor"}, visit(begin("LC-5", "Wren Halloran"))[:2])
	require.Equal(t, "deep", visit(second)[0], "trees that were left stay as they were")

	elsewhere := ulid.Make().String()
	_, err = b.AddTree(t.Context(), book.NewTree{ID: elsewhere, Tag: "LC-6", Tract: "Pump house", Stand: "Avenue", By: "Wren Halloran", New: true})
	require.NoError(t, err)
	require.Equal(t, plain, visit(elsewhere), "another tract is another visit")
}

// TestGreenGoesWithoutSaying: a tree counts as leafless until it is said otherwise, or a needle
// is scored; then its page says so.
func TestGreenGoesWithoutSaying(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree := started(t, b, "LC-1")
	look := add(t, b, tree, book.Entry{Kind: "look", From: "tree"})
	foliage := func() string {
		v, err := b.View(t.Context(), tree)
		require.NoError(t, err)
		return v.Facts.Foliage
	}
	require.Equal(t, "bare", foliage())
	score := add(t, b, tree, book.Entry{Kind: "score", Look: look, Score: &book.Score{Character: "needle.bundle", States: []string{"fives"}}})
	require.Equal(t, "needles", foliage())
	v, err := b.View(t.Context(), tree)
	require.NoError(t, err)
	require.Equal(t, "Pinus strobus", v.Result.Ranking[0].Taxon)
	add(t, b, tree, book.Entry{Kind: "withdraw", Entry: score})
	require.Equal(t, "bare", foliage())
}

// TestTheSiteGoesFromTreeToTree: what was said of the ground at one tree of a stand stands at
// the next ones, as a look that says where it comes from, and can be corrected there.
func TestTheSiteGoesFromTreeToTree(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	first := started(t, b, "LC-1")
	require.Empty(t, viewed(t, b, first).Looks, "nobody said anything yet")
	at := add(t, b, first, book.Entry{Kind: "look", From: "site"})
	said := func(tree, look, landform string) {
		add(t, b, tree, book.Entry{Kind: "score", Look: look, Score: &book.Score{Character: "setting.landform", States: []string{landform}}})
	}
	said(first, at, "cove")

	begin := func(tag, stand string) *book.TreeView {
		n := book.NewTree{ID: ulid.Make().String(), Tag: tag, Tract: tract, Stand: stand, By: "Tobias Okafor", New: true}
		_, err := b.AddTree(t.Context(), n)
		require.NoError(t, err)
		_, err = b.AddTree(t.Context(), n) // sent again
		require.NoError(t, err)
		return viewed(t, b, n.ID)
	}
	second := begin("LC-2", slope)
	require.Len(t, second.Looks, 1)
	carried := second.Looks[0]
	require.Equal(t, "site", carried.From)
	require.Equal(t, "As at LC-1, in the same stand.", carried.Note)
	require.Len(t, carried.Scores, 1)
	require.Equal(t, []string{"cove"}, carried.Scores[0].States)
	for _, n := range second.Result.Next {
		require.NotEqual(t, "setting.landform", n.Character, "asked once a stand")
	}
	require.Empty(t, begin("LC-3", "another").Looks, "another stand is other ground")

	said(second.Tree.ID, carried.ID, "streambank")
	require.Len(t, viewed(t, b, second.Tree.ID).Looks[0].Scores, 1, "corrected, not said twice")
	require.Equal(t, []string{"streambank"}, begin("LC-4", slope).Looks[0].Scores[0].States, "the last that was said")
}
