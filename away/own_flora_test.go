package away_test

import (
	"path/filepath"
	"testing"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/flora"
	files "palethicket/flora"
)

// smallFlora is a flora in one file, of two trees.
const smallFlora = `
regions: [lantern-creek]
sources: {walk: {title: "What the crew saw along the creek"}}
genera:
  - genus: Tilia
    english: linden
    family: Malvaceae
    sources: [walk]
    taxa:
      - {name: Tilia prima, english: [first linden], abundance: {lantern-creek: common}, status: native, values: {bark.texture: smooth}}
      - {name: Tilia altera, english: [other linden], abundance: {lantern-creek: rare}, status: native, values: {bark.texture: smooth}}
`

// TestAnotherFlora: the flora and lists that home reads its book with go along, in one file
// or whole; when home has another by then, the device says so.
func TestAnotherFlora(t *testing.T) {
	t.Parallel()
	whole, err := flora.ReadFolder(files.Files)
	require.NoError(t, err)
	creek := flora.List{Name: "Creek walk", Region: "eastern-north-america",
		Abundance: map[string]string{"Tilia americana": "common", "Acer rubrum": "rare"}}
	for name, own := range map[string]*flora.Own{
		"in one file":         {Name: "small.yaml", Text: []byte(smallFlora)},
		"whole, with a list":  {Files: whole, Lists: []flora.List{creek}},
		"shipped, and a list": {Lists: []flora.List{creek}},
	} {
		t.Run(name, func(t *testing.T) {
			h := newHome(t, false)
			require.NoError(t, h.book.Close())
			h.options = func(opt *book.Options) {
				opt.Own = !own.None()
				opt.Flora, err = own.Load(files.Files)
				require.NoError(t, err)
			}
			h.open(false)
			d := h.along("", time.Now)
			require.Equal(t, h.book.Flora().TaxonNames(), d.book.Flora().TaxonNames())
			require.Equal(t, h.book.Flora().Amongs(), d.book.Flora().Amongs())
			tree := treeOf(t, d.book, "LC-1")
			look(t, d.book, tree, "", "smooth")
			d.meet()
			require.Equal(t, view(t, h.book, tree), view(t, d.book, tree))
		})
	}

	h := newHome(t, false)
	d := h.along("", time.Now)
	require.NoError(t, h.book.Close())
	h.options = func(opt *book.Options) {
		opt.Flora, err = flora.LoadOutside(files.Files, "small.yaml", []byte(smallFlora))
		require.NoError(t, err)
	}
	h.open(false)
	require.NoError(t, d.Meet(t.Context()))
	require.Contains(t, d.status().Trouble, "home has another flora")
}

// TestBarsOfHome: from when a name is probable at home, it is on the devices once they
// have met, and nothing is left to say of it.
func TestBarsOfHome(t *testing.T) {
	t.Parallel()
	h := newHome(t, false)
	d := h.along("", time.Now)
	require.NoError(t, h.book.PutProbably(t.Context(), 0.8))
	d.meet()
	require.InDelta(t, 0.8, d.book.Bars().Probably, 1e-9)
	require.Empty(t, d.status().Trouble)
	require.NoError(t, d.book.HearProbably(t.Context(), 0), "from an older home")
	require.InDelta(t, 0.8, d.book.Bars().Probably, 1e-9)
}

// TestNewerBook: a device whose program is older than its book opens nothing, and says
// what to do.
func TestNewerBook(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	require.NoError(t, booktest.At(t, path).Close())
	db, err := sqlx.Open("sqlite", path)
	require.NoError(t, err)
	_, err = db.Exec("INSERT INTO goose_db_version (version_id, is_applied) VALUES (900, 1)")
	require.NoError(t, err)
	require.NoError(t, db.Close())
	_, err = book.Open(t.Context(), path, booktest.Options(t))
	require.ErrorContains(t, err, "the book is from a newer program (its tables are of step 900")
}
