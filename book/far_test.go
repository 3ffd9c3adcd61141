package book_test

import (
	"testing"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
)

// place gives a tree a position.
func place(t *testing.T, b *book.Book, tree string, lat, lon float64, meant bool) error {
	t.Helper()
	_, err := b.AddEntry(t.Context(), tree, &book.Entry{ID: ulid.Make().String(), Kind: "facts", Far: meant,
		Facts: &book.SetFacts{Position: &book.Position{Lat: lat, Lon: lon}}})
	return err
}

// TestAPlaceFarOff: a slip in a position is asked about, and said what it may be.
func TestAPlaceFarOff(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	one, two := started(t, b, "LC-1"), started(t, b, "LC-2")
	require.NoError(t, place(t, b, one, 43.5612, -90.6381, false), "the first is nowhere far from others")
	for _, c := range []struct {
		lat, lon float64
		says     string
	}{
		{43.5612, 90.6381, "is the longitude -90.6381? Mend it, or say that it is meant."},
		{-43.5612, -90.6381, "is the latitude 43.5612?"},
		{44.9, -93.2, "km from the other trees of Lantern Creek watershed forest. Mend it"},
	} {
		err := place(t, b, two, c.lat, c.lon, false)
		require.ErrorContains(t, err, c.says)
		require.Equal(t, "far", book.FieldsOf(err)[0].Field)
	}
	require.Nil(t, viewed(t, b, two).Facts.Position)
	require.NoError(t, place(t, b, two, 44.9, -93.2, true), "it was meant")
	require.NoError(t, place(t, b, one, 44.9, -93.2, true))
	require.NoError(t, place(t, b, two, 44.91, -93.21, false), "where the others are now")
	add(t, b, two, book.Entry{Kind: "facts", Facts: &book.SetFacts{Unplaced: true}})
	require.Nil(t, viewed(t, b, two).Facts.Position)
	require.ErrorContains(t, b.PutPlot(t.Context(), book.Plot{ID: ulid.Make().String(), Tract: tract, Stand: slope, Name: "P1",
		Day: "2026-11-29", Factor: "2 m2/ha", Position: &book.Position{Lat: 44.9, Lon: 93.2}}, ""), "is the longitude -93.2?")
}

// TestLinesFarOff are left out of a file until they are said to be meant.
func TestLinesFarOff(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	require.NoError(t, place(t, b, started(t, b, "LC-1"), 43.5612, -90.6381, false))
	p, err := b.ReadFile(t.Context(), "trees.csv", []byte("tag,tract,stand,date,lat,lon\n"+
		"LC-2,"+tract+","+slope+",2026-11-29,43.5613,90.6382\nLC-3,"+tract+","+slope+",2026-11-29,43.5613,-90.6382\n"))
	require.NoError(t, err)
	require.Equal(t, []int{1, 1, 1}, []int{p.Good, p.Bad, p.Far})
	require.Contains(t, p.Lines[0].Problems[0], "is the longitude -90.6382?")
	m := p.Mapping
	m.Far = true
	p, err = b.Preview(t.Context(), p.ID, m)
	require.NoError(t, err)
	require.Equal(t, []int{2, 0, 1}, []int{p.Good, p.Bad, p.Far})
}
