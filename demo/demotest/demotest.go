// Package demotest opens the demo forest for tests. It is drawn once for all tests of
// a package; each gets a copy of its own.
package demotest

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/flora/floratest"
	"palethicket/core/stand/revisit"
	"palethicket/demo"
	files "palethicket/flora"
)

// New opens a copy of the demo forest, closed when the test ends.
func New(t testing.TB) *book.Book {
	t.Helper()
	return booktest.At(t, filepath.Join(Copy(t), "book.db"))
}

// Copy is a folder with a copy of the forest's book, book.db.
func Copy(t testing.TB) string {
	t.Helper()
	to := t.TempDir()
	CopyTo(t, to)
	return to
}

// CopyTo puts a copy of the forest's book, book.db, into a folder.
func CopyTo(t testing.TB, folder string) {
	t.Helper()
	from, err := filled()
	require.NoError(t, err)
	require.NoError(t, os.CopyFS(folder, os.DirFS(from)))
}

var folder string // empty until the forest is drawn

// filled is the folder of the forest that is copied.
var filled = sync.OnceValues(func() (string, error) {
	f, err := floratest.Load()
	if err != nil {
		return "", err
	}
	calendar, err := revisit.Load(files.Files)
	if err != nil {
		return "", err
	}
	if folder, err = os.MkdirTemp("", "palethicket-forest"); err != nil {
		return "", err
	}
	ctx := context.Background()
	b, err := book.Open(ctx, filepath.Join(folder, "book.db"), book.Options{Flora: f, Calendar: calendar})
	if err != nil {
		return "", err
	}
	return folder, errors.Join(demo.Fill(ctx, b), b.Close())
})

// Main runs a package's tests and clears the forest away, then whatever else the
// package shared. Call it from TestMain.
func Main(m *testing.M, clear ...func()) {
	code := m.Run()
	for _, f := range clear {
		f()
	}
	if folder != "" {
		os.RemoveAll(folder) // it is of no use to anyone; what stays, the system clears
	}
	os.Exit(code)
}
