package store_test

import (
	"path/filepath"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/stamp"
	"palethicket/store"
)

// TestChanges hands out what is new by the book's own number; what got an earlier place
// comes again, and nothing after the first entry of a file that is being put in.
func TestChanges(t *testing.T) {
	t.Parallel()
	s, ctx := openNew(t), t.Context()
	tree := aTree("LC-1")
	note := logbook.Entry{ID: newID(), Kind: logbook.KindNote, Note: "leans"}
	require.NoError(t, addTree(s, tree, note))
	remarks := "Steep"
	land := logbook.Entry{
		ID:    newID(),
		Stamp: stamp.New(5, 0, "A"),
		Kind:  logbook.KindLand,
		Land:  &logbook.Land{Tract: "Another", Remarks: &remarks},
	}
	write(t, s, func(tx *store.Tx) error { _, err := tx.Append(ctx, "", &land, ""); return err })
	changes := func(after int, tracts ...string) ([]store.Change, int) {
		c, last, err := s.Changes(ctx, after, tracts, 100)
		require.NoError(t, err)
		return c, last
	}
	all, last := changes(0)
	require.Len(t, all, 2)
	require.Equal(t, tree.ID, all[0].Tree)
	require.Equal(t, land, all[1].Entry)
	there, _ := changes(0, "Another")
	require.Len(t, there, 1)
	about, err := s.About(ctx, land.About())
	require.NoError(t, err)
	require.Equal(t, []logbook.Entry{land}, about)

	note.Stamp, note.Said = stamp.New(7, 0, "B"), "2027-01-01T00:00:00Z"
	write(t, s, func(tx *store.Tx) error { return tx.Restamp(ctx, tree.ID, &note) })
	again, _ := changes(last)
	require.Equal(t, []store.Change{{Seq: last + 1, Tree: tree.ID, Entry: note}}, again)

	i := store.Import{ID: newID(), Name: "x.csv", At: "2026-11-17T09:00:00Z"}
	brought := aTree("LC-2")
	log := []logbook.Entry{{ID: newID(), Stamp: stamp.New(9, 0, "A"), Kind: logbook.KindNote, Note: "from a file"}}
	bodies, err := store.Bodies(log)
	require.NoError(t, err)
	write(t, s, func(tx *store.Tx) error {
		require.NoError(t, tx.AddImport(ctx, i))
		require.NoError(t, tx.AddTree(ctx, &brought, i.ID))
		require.ErrorIs(t, tx.AddTree(ctx, &brought, i.ID), store.ErrTreeTaken)
		return tx.AppendNew(ctx, brought.ID, log, bodies, i.ID)
	})
	err = s.Write(ctx, func(tx *store.Tx) error { return tx.AppendNew(ctx, brought.ID, log, bodies, i.ID) })
	require.ErrorIs(t, err, store.ErrIDTaken)
	none, _ := changes(last + 1)
	require.Empty(t, none, "it may yet be stopped")
	require.ErrorIs(t, s.TagsFree(ctx, brought.Tract, []string{"LC-9", "LC-2"}), store.ErrTagTaken)
	require.NoError(t, s.TagsFree(ctx, brought.Tract, []string{"LC-9"}))
	write(t, s, func(tx *store.Tx) error { return tx.FinishImport(ctx, i.ID, i.At) })
	none, _ = changes(last + 1)
	require.Len(t, none, 1)

	write(t, s, func(tx *store.Tx) error {
		require.NoError(t, tx.RemoveTree(ctx, brought.ID))
		return tx.DropImport(ctx, i.ID)
	})
	_, err = s.Tree(ctx, brought.ID)
	require.ErrorIs(t, err, store.ErrNoTree)
	stands, err := s.Stands(ctx)
	require.NoError(t, err)
	require.Len(t, stands, 1, "the stand has another tree")
}

// TestAFastClockOfBefore: what a fast clock made in a book from before stamps no longer
// comes after all that is entered.
func TestAFastClockOfBefore(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	tree, log := oldBook(t, path, 4)
	fast := ulid.MustNew(ulid.Timestamp(time.Now().Add(24*time.Hour)), ulid.DefaultEntropy()).String()
	old(
		t,
		path,
		"INSERT INTO entry (id, tree_id, body) VALUES (?, ?, ?)",
		fast,
		tree,
		`{"id": "`+fast+`", "kind": "note", "note": "tomorrow"}`,
	)
	s := open(t, path)
	_, got, err := s.Log(t.Context(), tree)
	require.NoError(t, err)
	require.Equal(t, fast, got[len(got)-1].ID, "it keeps its place among those before")
	require.Len(t, got, len(log)+2)
	require.WithinDuration(t, time.Now(), got[len(got)-1].Stamp.Time(), time.Minute)
	require.NotEmpty(t, got[len(got)-1].Said)
}

// TestTreesThatAreAlike are found and written together; what is each one's own stays.
func TestTreesThatAreAlike(t *testing.T) {
	t.Parallel()
	s, ctx := openNew(t), t.Context()
	common, err := store.InCommon(store.Posteriors{"Acer rubrum": 1})
	require.NoError(t, err)
	for _, tag := range []string{"LC-1", "LC-2", "LC-3"} {
		tree := aTree(tag)
		require.NoError(t, addTree(s, tree))
		require.NoError(t, stand(s, tree.ID, store.Standing{Basis: "1", Status: "unscored", Alike: "a", Common: common, Remarks: tag}))
	}
	b := store.Basis{Region: "eastern-north-america", Digest: "2"}
	groups, err := s.StaleAlike(ctx, b)
	require.NoError(t, err)
	require.Len(t, groups, 1)
	require.Equal(t, 3, groups[0].Trees)
	keep := func() (n int) {
		write(t, s, func(tx *store.Tx) (err error) {
			n, err = tx.KeepAlike(ctx, "a", b, &store.Standing{Basis: "2", Status: "unscored", Leader: "Acer nigrum", Common: common}, 2)
			return err
		})
		return n
	}
	require.Equal(t, []int{2, 1, 0}, []int{keep(), keep(), keep()})
	page, _, err := s.Trees(ctx, store.Query{}, 10, 0)
	require.NoError(t, err)
	for _, l := range page {
		require.Equal(t, []string{"2", "Acer nigrum", l.Tag}, []string{l.Basis, l.Leader, l.Remarks})
	}
}
