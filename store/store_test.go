package store_test

import (
	"os"
	"path/filepath"
	"sync"
	"testing"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/store"
)

func open(t *testing.T, path string) *store.Store {
	t.Helper()
	s, err := store.Open(t.Context(), path)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	return s
}

func aTree(tag string) store.Tree {
	return store.Tree{ID: ulid.Make().String(), Tag: tag, Region: "eastern-north-america",
		Tract: "Lantern Creek watershed forest", Stand: "Upper slope"}
}

func aScore(look string) *logbook.Entry {
	return &logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindScore, Look: look,
		Score: &record.Score{Character: "bud.coat", States: []string{"bare"}}}
}

func TestReopen(t *testing.T) {
	path := filepath.Join(t.TempDir(), "book.db")
	s := open(t, path)
	tree := aTree("LC-1")
	look := logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindLook, From: "tree"}
	require.NoError(t, s.AddTree(t.Context(), tree, look))
	score := aScore(look.ID)
	require.NoError(t, s.Append(t.Context(), tree.ID, nil, score))
	require.NoError(t, s.Close())

	s = open(t, path)
	got, err := s.Tree(t.Context(), tree.ID)
	require.NoError(t, err)
	require.Equal(t, tree, got)
	log, err := s.Entries(t.Context(), tree.ID)
	require.NoError(t, err)
	require.Equal(t, []logbook.Entry{look, *score}, log)
	places, err := s.Places(t.Context())
	require.NoError(t, err)
	require.Equal(t, "Upper slope", places[0].Stand)
}

func TestSendingAgainChangesNothing(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "book.db"))
	tree := aTree("LC-1")
	require.NoError(t, s.AddTree(t.Context(), tree))
	require.NoError(t, s.AddTree(t.Context(), tree))
	e := aScore("x")
	require.NoError(t, s.Append(t.Context(), tree.ID, nil, e))
	require.NoError(t, s.Append(t.Context(), tree.ID, nil, e))
	log, err := s.Entries(t.Context(), tree.ID)
	require.NoError(t, err)
	require.Len(t, log, 1)

	other := *e
	other.Look = "y"
	require.ErrorIs(t, s.Append(t.Context(), tree.ID, nil, &other), store.ErrIDTaken)
}

func TestTagTaken(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "book.db"))
	require.NoError(t, s.AddTree(t.Context(), aTree("LC-1")))
	second := aTree("LC-1")
	second.Stand = "Creek bottom"
	require.ErrorIs(t, s.AddTree(t.Context(), second), store.ErrTagTaken)
	places, err := s.Places(t.Context())
	require.NoError(t, err)
	require.Len(t, places, 1, "the stand of the refused tree was not kept")
	other := aTree("LC-1")
	other.Tract = "Another tract"
	require.NoError(t, s.AddTree(t.Context(), other), "a tag is of its tract")
}

func TestNoSuchTree(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "book.db"))
	_, err := s.Tree(t.Context(), "nothing")
	require.ErrorIs(t, err, store.ErrNoTree)
	require.Error(t, s.Append(t.Context(), "nothing", nil, aScore("x")), "an entry needs its tree")
}

// TestManyWriters writes from many goroutines at once; nothing is lost.
func TestManyWriters(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "book.db"))
	tree := aTree("LC-1")
	require.NoError(t, s.AddTree(t.Context(), tree))
	const writers, each = 8, 25
	var wg sync.WaitGroup
	errs := make(chan error, writers*each)
	for range writers {
		wg.Go(func() {
			for range each {
				errs <- s.Append(t.Context(), tree.ID, nil, aScore("x"))
			}
		})
	}
	wg.Wait()
	close(errs)
	for err := range errs {
		require.NoError(t, err)
	}
	log, err := s.Entries(t.Context(), tree.ID)
	require.NoError(t, err)
	require.Len(t, log, writers*each)
}

// anyStanding takes no notice of the log.
func anyStanding(store.Tree, []logbook.Entry) (*store.Standing, error) {
	return &store.Standing{Status: "open", Basis: "1"}, nil
}

func TestPages(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "book.db"))
	for _, tag := range []string{"LC-3", "LC-1", "LC-2"} {
		require.NoError(t, s.AddTree(t.Context(), aTree(tag)))
	}
	require.NoError(t, s.WeighStale(t.Context(), map[string]string{"eastern-north-america": "1"}, anyStanding, func(int, int) {}))
	page, total, err := s.Trees(t.Context(), store.Query{}, 2, 1)
	require.NoError(t, err)
	require.Equal(t, 3, total)
	require.Equal(t, []string{"LC-2", "LC-3"}, []string{page[0].Tag, page[1].Tag})
	n, err := s.Count(t.Context())
	require.NoError(t, err)
	require.Equal(t, 3, n)
}

func TestNotABook(t *testing.T) {
	path := filepath.Join(t.TempDir(), "book.db")
	require.NoError(t, os.WriteFile(path, []byte("not a database, but long enough to be taken for one by its size alone"), 0o600))
	_, err := store.Open(t.Context(), path)
	require.Error(t, err)
}
