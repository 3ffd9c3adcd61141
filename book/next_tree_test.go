package book_test

import (
	"testing"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
)

// TestNextTree: whoever only wants a name is asked for no tag and no place.
func TestNextTree(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	next := func(by string) []string {
		id := ulid.Make().String()
		v, err := b.AddNextTree(t.Context(), book.NextTree{ID: id, By: by})
		require.NoError(t, err)
		again, err := b.AddNextTree(t.Context(), book.NextTree{ID: id, By: by})
		require.NoError(t, err)
		require.Equal(t, v.Tree, again.Tree, "sent again, it is the same tree")
		return []string{v.Tree.Tag, v.Tree.Tract, v.Tree.Stand}
	}
	at, err := b.NextPlace(t.Context(), "Ada")
	require.NoError(t, err)
	require.Zero(t, at, "an empty book proposes nothing")
	require.Equal(t, []string{"1", book.Unfiled, book.Unfiled}, next("Ada"))
	require.Equal(t, []string{"2", book.Unfiled, book.Unfiled}, next("Ada"))
	for tag, by := range map[string]string{"LC-009": "Wren", "LC-010": "Marit"} {
		n := book.NewTree{ID: ulid.Make().String(), Tag: tag, Tract: "Lantern Creek", Stand: "North cove", New: true, By: by}
		_, err := b.AddTree(t.Context(), n)
		require.NoError(t, err)
	}
	at, err = b.NextPlace(t.Context(), "Wren")
	require.NoError(t, err)
	require.Equal(t, book.Place{Tag: "LC-011", Tract: "Lantern Creek", Stand: "North cove"}, at)
	require.Equal(t, []string{"LC-011", "Lantern Creek", "North cove"}, next("Wren"), "LC-010 is taken")
	require.Equal(t, []string{"3", book.Unfiled, book.Unfiled}, next("Ada"), "each goes on where they were")
	require.Equal(t, []string{"4", book.Unfiled, book.Unfiled}, next("Nils"), "who started none goes on after the newest")
	_, err = b.AddNextTree(t.Context(), book.NextTree{ID: "short"})
	require.Error(t, err)
}
