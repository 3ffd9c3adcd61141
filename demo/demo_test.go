package demo_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/demo"
	"palethicket/store"
)

// TestFill fills a book with the demo forest and holds it to its story: every
// kind of tree and every part of the book has something to show.
func TestFill(t *testing.T) {
	b := booktest.New(t)
	require.NoError(t, demo.Fill(t.Context(), b))
	require.NoError(t, demo.Fill(t.Context(), b), "a second time changes nothing")
	lines, total, err := b.Store.Trees(t.Context(), store.Query{}, 500, 0)
	require.NoError(t, err)
	require.Equal(t, 400, total)
	stands, status, by, flagged := map[string]int{}, map[string]int{}, map[string]int{}, 0
	for _, l := range lines {
		stands[l.Stand]++
		status[l.Status]++
		by[l.GivenBy]++
		require.NotNil(t, l.Lon, l.Tag)
		if l.Doubt != "" && l.GivenPosterior > 0.3 {
			flagged++
		}
	}
	require.Len(t, stands, 6)
	require.Len(t, by, 4, "three observers, and no name yet")
	for _, s := range []string{book.StatusNamed, book.StatusDoubtful, book.StatusReady, book.StatusOpen} {
		require.GreaterOrEqual(t, status[s], 5, "%s in %v", s, status)
	}
	require.Positive(t, flagged, "some names that later looks contradict")
	visits, err := b.Store.Visits(t.Context(), "")
	require.NoError(t, err)
	require.Len(t, visits, 11)
	for _, v := range visits {
		require.Positive(t, v.Looks, "visit of %s", v.Day)
	}
	pictures := 0
	for _, l := range lines {
		photos, err := b.Store.PhotosOf(t.Context(), l.ID)
		require.NoError(t, err)
		pictures += len(photos)
	}
	require.Equal(t, 3, pictures)
	m, err := b.Map(t.Context())
	require.NoError(t, err)
	for _, s := range m.Stands {
		require.Greater(t, s.Hectares, 1.0, s.Stand)
	}
	require.Greater(t, m.Tracts[0].Hectares, 100.0)
}
