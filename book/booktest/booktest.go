// Package booktest opens books for tests.
package booktest

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/core/flora"
	"palethicket/core/stand/revisit"
	files "palethicket/flora"
	"palethicket/store"
)

// New opens an empty book with the shipped flora, closed when the test ends.
func New(t testing.TB) *book.Book {
	t.Helper()
	return At(t, filepath.Join(t.TempDir(), "book.db"))
}

// At opens the book at path, as New does.
func At(t testing.TB, path string) *book.Book {
	t.Helper()
	f, err := flora.Load(files.Files)
	require.NoError(t, err)
	c, err := revisit.Load(files.Files)
	require.NoError(t, err)
	s, err := store.Open(t.Context(), path)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	b, err := book.Open(t.Context(), s, f, c)
	require.NoError(t, err)
	return b
}
