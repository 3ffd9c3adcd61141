package store_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/store"
)

// TestAMissingWAL: of a book that was cut off while it was open, what was entered last lies in its file
// -wal. Without that it is not opened, and stays as it is, until somebody says to go on.
func TestAMissingWAL(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	s := open(t, path)
	require.NoError(t, s.Write(t.Context(), func(tx *store.Tx) error { return tx.PutSetting(t.Context(), "color", "red") }))
	cutOff := func(ends ...string) string { // the files as a program that is killed leaves them
		to := filepath.Join(t.TempDir(), "cut.db")
		for _, end := range ends {
			body, err := os.ReadFile(path + end)
			require.NoError(t, err)
			require.NoError(t, os.WriteFile(to+end, body, 0o600))
		}
		return to
	}

	whole := cutOff("", "-wal")
	for range 3 { // with its file it opens, and once it was closed needs none
		again, err := store.Open(t.Context(), whole)
		require.NoError(t, err)
		value, err := again.Setting(t.Context(), "color")
		require.NoError(t, err)
		require.Equal(t, "red", value)
		require.NoError(t, again.Close())
		require.NoFileExists(t, whole+"-wal")
	}

	alone := cutOff("")
	before, err := os.ReadFile(alone)
	require.NoError(t, err)
	_, err = store.Open(t.Context(), alone)
	require.ErrorIs(t, err, store.ErrNoWAL)
	require.ErrorIs(t, store.Check(t.Context(), alone), store.ErrNoWAL)
	after, err := os.ReadFile(alone)
	require.NoError(t, err)
	require.Equal(t, before, after)
	require.NoError(t, store.ForgetWAL(t.Context(), path), "in use")
	_, err = store.Open(t.Context(), cutOff(""))
	require.ErrorIs(t, err, store.ErrNoWAL, "a book in use keeps its mark")
	none := filepath.Join(t.TempDir(), "none.db")
	require.NoError(t, store.ForgetWAL(t.Context(), none))
	require.NoFileExists(t, none)
	require.NoError(t, store.ForgetWAL(t.Context(), alone))
	require.NoError(t, store.Check(t.Context(), alone))
	require.NoError(t, open(t, alone).Close())

	other, err := store.Open(t.Context(), path) // a second program, which ends first
	require.NoError(t, err)
	require.NoError(t, other.Close())
	_, err = store.Open(t.Context(), cutOff(""))
	require.ErrorIs(t, err, store.ErrNoWAL)

	backup := filepath.Join(t.TempDir(), "backup.db")
	require.NoError(t, store.Backup(t.Context(), path, backup))
	require.NoError(t, open(t, backup).Close())
	require.NoError(t, s.Close())
	require.NoError(t, store.Check(t.Context(), path))
}
