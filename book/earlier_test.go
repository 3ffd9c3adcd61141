package book_test

import (
	"compress/bzip2"
	"io"
	"os"
	"path/filepath"
	"testing"

	"github.com/jmoiron/sqlx"
	"github.com/stretchr/testify/require"
	_ "modernc.org/sqlite" // the book before it is opened

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/flora"
)

// stood is what a tree's line said before its log had an order of its own.
type stood struct {
	ID, Tract, Stand, Tag, Region, List, Basis string
	Status, Leader, Given, Age, Vigour         string
	GivenBy                                    string `db:"given_by"`
	GivenAt                                    string `db:"given_at"`
	Remarks, Last                              string
	Posterior                                  float64 `db:"leader_posterior"`
	Looks, Scores, Aside                       int
	DBH                                        float64 `db:"dbh_cm"`
	Height                                     float64 `db:"height_m"`
	Lon, Lat                                   *float64
}

// TestEarlierDemoBook opens the demo book as the program before stamps left it (a dump
// of its tables): every tree stands as it stood. What hangs on the flora is compared
// while the flora is the same.
func TestEarlierDemoBook(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "demo.db")
	before := restoreDump(t, "testdata/demo-004.sql.bz2", path)
	require.Len(t, before, 400)

	b := booktest.At(t, path)
	lists, err := b.Lists(t.Context())
	require.NoError(t, err)
	require.Len(t, lists, 1)
	same := 0
	for _, was := range before {
		is := standing(t, b, was.ID)
		tree, err := b.View(t.Context(), was.ID)
		require.NoError(t, err)
		require.Equal(t, book.Tree{ID: was.ID, Tag: was.Tag, Region: was.Region, List: was.List, Tract: was.Tract, Stand: was.Stand}, tree.Tree)
		require.Equal(t, was, stood{ID: was.ID, Tract: was.Tract, Stand: was.Stand, Tag: was.Tag, Region: is.Region, List: is.List,
			Basis: was.Basis, Status: was.Status, Leader: was.Leader, Posterior: was.Posterior,
			Given: is.Given, GivenBy: is.GivenBy, GivenAt: is.GivenAt, Age: is.Age, Vigour: is.Vigour, Remarks: is.Remarks, Last: is.Last,
			Looks: is.Looks, Scores: is.Scores, DBH: is.DBH, Height: is.Height, Lon: is.Lon, Lat: is.Lat}, was.Tag)
		if was.Basis == is.Basis {
			same++
			require.Equal(t, []string{was.Status, was.Leader}, []string{is.Status, is.Leader}, was.Tag)
			require.InDelta(t, was.Posterior, is.LeaderPosterior, 1e-12)
		}
	}
	t.Logf("%d of %d trees are weighed with the flora of then", same, len(before))
	visits, err := b.Visits(t.Context(), "")
	require.NoError(t, err)
	require.Len(t, visits, 11)
	photos := 0
	for _, was := range before {
		of, err := b.Photos(t.Context(), was.ID)
		require.NoError(t, err)
		photos += len(of)
	}
	require.Equal(t, 3, photos)

	away := booktest.New(t)
	require.Equal(t, len(all(t, b)), meet(t, away, "", all(t, b)...)[book.Taken], "all of it can be told to another book")
	_, err = b.Hear(t.Context(), all(t, away)) // what the flora of then gave the names is worked out anew in both
	require.NoError(t, err)
	require.Equal(t, shown(t, b, before[0].ID), shown(t, away, before[0].ID))
}

// restoreDump makes a book of a dump, and gives where its trees stood.
func restoreDump(t *testing.T, dump, path string) (before []stood) {
	t.Helper()
	file, err := os.Open(dump)
	require.NoError(t, err)
	defer file.Close()
	text, err := io.ReadAll(bzip2.NewReader(file))
	require.NoError(t, err)
	db, err := sqlx.Open("sqlite", path)
	require.NoError(t, err)
	defer db.Close()
	_, err = db.ExecContext(t.Context(), string(text))
	require.NoError(t, err)
	require.NoError(t, db.SelectContext(t.Context(), &before, `SELECT tree_id AS id, tract, stand, tag, region, list, basis, status, leader,
		given, given_by, given_at, age, vigour, remarks, last, leader_posterior, looks, scores, aside, dbh_cm, height_m, lon, lat FROM standing ORDER BY tag`))
	return before
}

// TestATreeAmongNoList: a tree whose list is gone, as of a book that another program
// changed, is unreadable, and the book opens and goes on.
func TestATreeAmongNoList(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	b := booktest.At(t, path)
	list := ours(t, b)
	among, _ := hackberry(t, b, "LC-1")
	other, _ := hackberry(t, b, "LC-2")
	add(t, b, among, book.Entry{Kind: "facts", Facts: &book.SetFacts{Among: &book.Among{List: list.Name}}})
	require.ErrorIs(t, b.DropList(t.Context(), list.Name, ""), book.ErrListInUse)
	require.NoError(t, b.Close())
	db, err := sqlx.Open("sqlite", path)
	require.NoError(t, err)
	_, err = db.ExecContext(t.Context(), "DELETE FROM list; DELETE FROM standing")
	require.NoError(t, err)
	require.NoError(t, db.Close())

	b = booktest.At(t, path)
	require.Equal(t, "unreadable", standing(t, b, among).Status)
	require.Equal(t, "Celtis occidentalis", standing(t, b, other).Leader)
	started(t, b, "LC-3")
}

// TestAListOfOneName: a book that is served with a list of the name of its own opens;
// the served one counts, and the book says which of its own it hides.
func TestAListOfOneName(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	b := booktest.At(t, path)
	list := ours(t, b)
	require.NoError(t, b.Close())
	opt := booktest.Options(t)
	f, err := opt.Flora.With(
		flora.List{Name: list.Name, Region: list.Region, Abundance: map[string]string{"Acer rubrum": "common", "Acer saccharum": "rare"}},
	)
	require.NoError(t, err)
	opt.Flora = f
	b, err = book.Open(t.Context(), path, opt)
	require.NoError(t, err)
	defer b.Close()
	require.Equal(t, []string{list.Name}, b.Hidden)
	require.Len(t, b.Flora().List(list.Name).Abundance, 2)
	_, err = b.PutList(t.Context(), list, "")
	require.ErrorContains(t, err, "served with a list of this name")
}
