// Package booktest opens books for tests. The shipped flora is read once for all of
// them.
package booktest

import (
	"errors"
	"io"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/core/flora/floratest"
	"palethicket/core/stand/revisit"
	files "palethicket/flora"
)

// New opens an empty book with the shipped flora, closed when the test ends.
func New(t testing.TB) *book.Book {
	t.Helper()
	return At(t, filepath.Join(t.TempDir(), "book.db"))
}

// At opens the book at path, as New does.
func At(t testing.TB, path string) *book.Book {
	t.Helper()
	return Opened(t, path, Options(t))
}

// Opened opens the book at path with options.
func Opened(t testing.TB, path string, opt book.Options) *book.Book {
	t.Helper()
	b, err := book.Open(t.Context(), path, opt)
	require.NoError(t, err)
	t.Cleanup(func() { b.Close() })
	require.NoError(t, b.WeighStale(t.Context(), func(int, int) {}))
	return b
}

// Options are those of a book with the shipped flora.
func Options(t testing.TB) book.Options {
	t.Helper()
	f := floratest.Shipped(t)
	c, err := revisit.Load(files.Files)
	require.NoError(t, err)
	return book.Options{Flora: f, Calendar: c}
}

// ReadPhoto reads a photograph's file, or its thumbnail.
func ReadPhoto(t testing.TB, b *book.Book, id string, thumb bool) (body []byte, kind string, err error) {
	t.Helper()
	file, kind, err := b.PhotoFile(t.Context(), id, thumb)
	if err != nil {
		return nil, kind, err
	}
	body, err = io.ReadAll(file)
	return body, kind, errors.Join(err, file.Close())
}
