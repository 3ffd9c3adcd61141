package store_test

import (
	"os"
	"path/filepath"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/tree/logbook"
	"palethicket/store"
)

func entries(t *testing.T, path, tree string) []logbook.Entry {
	t.Helper()
	s := open(t, path)
	_, log, err := s.Log(t.Context(), tree)
	require.NoError(t, err)
	return log
}

// TestBackupTakesWhatLiesBeside: a check that goes on is worked in a book of its own, which is backed up and
// restored with the whole.
func TestBackupTakesWhatLiesBeside(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	path, copied, again := filepath.Join(dir, "book.db"), filepath.Join(dir, "backup.db"), filepath.Join(dir, "restored.db")
	whole := open(t, path)
	inner, err := whole.MakeBeside("checks", "one.db")
	require.NoError(t, err)
	tree := aTree("LC-1")
	require.NoError(t, addTree(open(t, inner), tree))
	require.NoError(t, store.Backup(t.Context(), path, copied))
	require.NoError(t, store.Restore(t.Context(), copied, again))
	require.Len(t, entries(t, open(t, again).Beside("checks", "one.db"), tree.ID), len(entries(t, inner, tree.ID)))
}

// TestBackupWhileInUse copies a book that is being written: all that was
// acknowledged before is in the copy, and the copy restores.
func TestBackupWhileInUse(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	path, copied, again := filepath.Join(dir, "book.db"), filepath.Join(dir, "backup.db"), filepath.Join(dir, "restored.db")
	s := open(t, path)
	tree := aTree("LC-1")
	look := logbook.Entry{ID: "01M7Q2JGS0HW93CJNBKRY3HC2F", Kind: logbook.KindLook, From: "tree"}
	require.NoError(t, addTree(s, tree, look))
	var before []string
	for range 20 {
		e := aScore(look.ID)
		require.NoError(t, appendTo(s, tree.ID, e))
		before = append(before, e.ID)
	}

	stop, writing := make(chan struct{}), sync.WaitGroup{}
	writing.Go(func() {
		for {
			select {
			case <-stop:
				return
			default:
				_ = appendTo(s, tree.ID, aScore(look.ID))
			}
		}
	})
	err := store.Backup(t.Context(), path, copied)
	close(stop)
	writing.Wait()
	require.NoError(t, err)
	require.NoFileExists(t, copied+".part")

	require.NoError(t, store.Restore(t.Context(), copied, again))
	kept := map[string]bool{}
	for _, e := range entries(t, again, tree.ID) {
		kept[e.ID] = true
	}
	for _, id := range before {
		require.True(t, kept[id], "entry %s was acknowledged before the backup", id)
	}
}

func TestBackupWritesOverNothing(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	path, other := filepath.Join(dir, "book.db"), filepath.Join(dir, "other.db")
	require.NoError(t, addTree(open(t, path), aTree("LC-1")))
	require.NoError(t, os.WriteFile(other, []byte("mine"), 0o600))
	require.ErrorContains(t, store.Backup(t.Context(), path, other), "is there already")
	require.ErrorContains(t, store.Restore(t.Context(), path, other), "move it away first")
	text, err := os.ReadFile(other)
	require.NoError(t, err)
	require.Equal(t, "mine", string(text))

	require.ErrorContains(t, store.Backup(t.Context(), path, filepath.Join(dir, "no", "where.db")), "copying")
	require.ErrorContains(t, store.Backup(t.Context(), filepath.Join(dir, "none.db"), filepath.Join(dir, "x.db")), "there is no book")
	require.NoFileExists(t, filepath.Join(dir, "x.db"))
}

// TestDamageIsFound overwrites the middle of a book, cuts one short, and offers
// other files.
func TestDamageIsFound(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	path, whole := filepath.Join(dir, "book.db"), filepath.Join(dir, "whole.db")
	s := open(t, path)
	tree := aTree("LC-1")
	look := logbook.Entry{ID: "01M7Q2JGS0HW93CJNBKRY3HC2F", Kind: logbook.KindLook, From: "tree"}
	require.NoError(t, addTree(s, tree, look))
	for range 200 {
		require.NoError(t, appendTo(s, tree.ID, aScore(look.ID)))
	}
	require.NoError(t, store.Backup(t.Context(), path, whole))
	require.NoError(t, store.Check(t.Context(), whole))
	good, err := os.ReadFile(whole)
	require.NoError(t, err)

	scribbled := append([]byte{}, good...)
	for i := len(good) / 2; i < len(good)/2+8192; i++ {
		scribbled[i] = 0xa5
	}
	for name, text := range map[string][]byte{
		"scribbled": scribbled, "cut": good[:len(good)/2], "not a book": []byte("LC-1, red oak\n"), "empty": nil,
	} {
		bad := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(bad, text, 0o600))
		err := store.Check(t.Context(), bad)
		require.ErrorContains(t, err, "damaged", name)
		require.ErrorContains(t, err, "restore the latest backup", name)
		require.Error(t, store.Restore(t.Context(), bad, bad+".restored"), name)
		require.NoFileExists(t, bad+".restored")
		after, err := os.ReadFile(bad)
		require.NoError(t, err)
		require.Equal(t, len(text), len(after), "a damaged book is left as it is")
	}
}
