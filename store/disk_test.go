package store_test

import (
	"fmt"
	"os"
	"path/filepath"
	"syscall"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/store"
)

// TestAnEmptyFile is no new book: it may be what is left of one.
func TestAnEmptyFile(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	require.NoError(t, os.WriteFile(path, nil, 0o600))
	_, err := store.Open(t.Context(), path)
	require.ErrorIs(t, err, store.ErrEmpty)
	info, err := os.Stat(path)
	require.NoError(t, err)
	require.Zero(t, info.Size(), "it is left as it is")
}

// TestReadOnlyDisk: a book where nothing can be written is read if all of it is there,
// and what is wrong is said if not. It changes what every test of the package sees, and
// so runs by itself.
func TestReadOnlyDisk(t *testing.T) {
	path := filepath.Join(t.TempDir(), "book.db")
	s := open(t, path)
	require.NoError(t, addTree(s, aTree("LC-1")))
	back := store.MayNotWrite()
	defer back()
	err := store.Check(t.Context(), path)
	require.ErrorContains(t, err, "copy both to a disk that can be written")
	require.NoError(t, s.Close())
	require.NoError(t, store.Check(t.Context(), path))
	require.NoError(t, store.ReadAlone(t.Context(), path, func(r store.Reader) error {
		n, err := r.CountTrees(t.Context())
		require.Equal(t, 1, n)
		return err
	}))
}

func TestFullDisks(t *testing.T) {
	t.Parallel()
	require.True(t, store.Full(fmt.Errorf("keeping a photograph: %w", &os.PathError{Op: "write", Err: syscall.ENOSPC})))
	require.True(t, store.Full(syscall.EDQUOT))
	require.False(t, store.Full(os.ErrNotExist))
	require.True(t, store.ReadOnly(&os.PathError{Op: "open", Err: syscall.EROFS}))
}

// TestACopyIsAnotherNode: a book that was copied stamps as somebody else than the book
// it is of.
func TestACopyIsAnotherNode(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	s := open(t, filepath.Join(dir, "book.db"))
	is, err := s.Identity(t.Context())
	require.NoError(t, err)
	require.Len(t, is.Book, 26)
	require.NotEmpty(t, is.Node)
	require.NoError(t, store.Backup(t.Context(), filepath.Join(dir, "book.db"), filepath.Join(dir, "copy.db")))
	other, err := open(t, filepath.Join(dir, "copy.db")).Identity(t.Context())
	require.NoError(t, err)
	require.Equal(t, is.Book, other.Book)
	require.NotEqual(t, is.Node, other.Node)
	require.NoError(t, s.Close())
	again, err := open(t, filepath.Join(dir, "book.db")).Identity(t.Context())
	require.NoError(t, err)
	require.Equal(t, is, again)
}
