package book_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
)

// TestCorrectedFile puts a file in, undoes it, mends it and puts it in again: every
// mended line counts, and nothing that was wrong stays.
func TestCorrectedFile(t *testing.T) {
	t.Parallel()
	const first = "tag,tract,stand,lat,lon,dbh_cm,given,observer,date,remarks\n" +
		"A-1," + tract + ",Old pasture,43.561,-90.638,31,Quercus alba,Wren Halloran,2026-11-20,leans\n" +
		"A-2," + tract + ",Old pasture,43.562,-90.639,40,Quercus alba,Wren Halloran,2026-11-20,\n"
	for what, mended := range map[string][2]string{
		"name":     {"Quercus alba", "Quercus rubra"},
		"stand":    {"Old pasture", "Upper slope"},
		"position": {"43.561", "43.571"},
		"diameter": {",31,", ",33,"},
		"observer": {"Wren Halloran", "Marit Sandoval"},
		"day":      {"2026-11-20", "2026-11-21"},
		"remarks":  {"leans", "forked"},
		"nothing":  {"A-1", "A-1"},
		"tag":      {"A-1", "A-9"},
	} {
		t.Run(what, func(t *testing.T) {
			t.Parallel()
			b := booktest.New(t)
			require.Equal(t, 2, put(t, b, "stand.csv", []byte(first)).Trees)
			imports, err := b.Imports(t.Context())
			require.NoError(t, err)
			_, err = b.UndoImport(t.Context(), imports[0].ID, "Wren Halloran")
			require.NoError(t, err)
			require.Zero(t, count(t, b, book.Query{}))

			again := put(t, b, "stand.csv", []byte(strings.ReplaceAll(first, mended[0], mended[1])))
			require.Empty(t, again.Wrong)
			require.Equal(t, 2, again.Trees, "as many as went in")
			list := listOf(t, b, book.Query{Sort: "tag"})
			require.Equal(t, 2, list.Total)
			one := list.Trees[0]
			got := strings.Join([]string{one.Tag, one.Stand, one.Given, one.GivenBy, one.Remarks}, " ")
			if strings.Contains("name stand observer remarks", what) {
				require.NotContains(t, got, mended[0])
				require.Contains(t, got, mended[1])
			}
			if what == "position" {
				require.InDelta(t, 43.571, *one.Lat, 1e-9)
			}
			if what == "diameter" {
				require.Equal(t, 33.0, one.DBH)
			}
			imports, err = b.Imports(t.Context())
			require.NoError(t, err)
			require.Equal(t, 2, imports[0].Trees)
			aside, err := b.Trees(t.Context(), book.Query{Aside: true}, 10, 0)
			require.NoError(t, err)
			want := 0
			if what == "tag" {
				want = 1
			}
			require.Equal(t, want, aside.Total)
		})
	}
}
