package store_test

import (
	"context"
	"os"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/core/tree/stamp"
	"palethicket/store"
)

func open(t *testing.T, path string) *store.Store {
	t.Helper()
	s, err := store.Open(t.Context(), path)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	return s
}

// addTree adds a tree with the first entries of its log.
func addTree(s *store.Store, tree store.Tree, log ...logbook.Entry) error {
	ctx := context.Background()
	return s.Write(ctx, func(tx *store.Tx) error {
		if err := tx.AddTree(ctx, &tree, ""); err != nil {
			return err
		}
		for i := range log {
			log[i].Stamp = stamp.OfID(log[i].ID)
			if _, err := tx.Append(ctx, tree.ID, &log[i], ""); err != nil {
				return err
			}
		}
		return nil
	})
}

func appendTo(s *store.Store, tree string, e *logbook.Entry) error {
	ctx := context.Background()
	e.Stamp = stamp.OfID(e.ID)
	return s.Write(ctx, func(tx *store.Tx) error {
		_, err := tx.Append(ctx, tree, e, "")
		return err
	})
}

// stand keeps a standing that takes no notice of the log.
func stand(s *store.Store, id string, st store.Standing) error {
	ctx := context.Background()
	return s.Write(ctx, func(tx *store.Tx) error {
		t, err := tx.Tree(ctx, id)
		if err != nil {
			return err
		}
		st.Region = t.Region
		return tx.KeepStanding(ctx, &t, &st)
	})
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
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	s := open(t, path)
	tree := aTree("LC-1")
	look := logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindLook, From: "tree"}
	look.Stamp = stamp.OfID(look.ID)
	require.NoError(t, addTree(s, tree, look))
	score := aScore(look.ID)
	require.NoError(t, appendTo(s, tree.ID, score))
	require.NoError(t, s.Close())

	s = open(t, path)
	got, err := s.Tree(t.Context(), tree.ID)
	require.NoError(t, err)
	require.Equal(t, 2, got.Version, "one for each entry")
	tree.Version = got.Version
	require.Equal(t, tree, got)
	_, log, err := s.Log(t.Context(), tree.ID)
	require.NoError(t, err)
	require.Equal(t, []logbook.Entry{look, *score}, log)
	stands, err := s.Stands(t.Context())
	require.NoError(t, err)
	require.Equal(t, "Upper slope", stands[0].Stand)
}

func TestSendingAgainChangesNothing(t *testing.T) {
	t.Parallel()
	s := open(t, filepath.Join(t.TempDir(), "book.db"))
	tree := aTree("LC-1")
	require.NoError(t, addTree(s, tree))
	e := aScore("x")
	require.NoError(t, appendTo(s, tree.ID, e))
	require.NoError(t, appendTo(s, tree.ID, e))
	_, log, err := s.Log(t.Context(), tree.ID)
	require.NoError(t, err)
	require.Len(t, log, 1)

	other := *e
	other.Look = "y"
	require.ErrorIs(t, appendTo(s, tree.ID, &other), store.ErrIDTaken)
}

func TestTagTaken(t *testing.T) {
	t.Parallel()
	s := open(t, filepath.Join(t.TempDir(), "book.db"))
	first, tract := aTree("LC-1"), "Lantern Creek watershed forest"
	require.NoError(t, addTree(s, first))
	free := func(tract, tree string) error { return s.TagFree(t.Context(), tract, "LC-1", tree) }
	require.ErrorIs(t, free(tract, "another"), store.ErrTagTaken)
	require.NoError(t, free(tract, first.ID), "it is its own")
	require.NoError(t, free("Another tract", "another"), "a tag is of its tract")
	require.NoError(t, stand(s, first.ID, store.Standing{Status: "open", Aside: true}))
	require.NoError(t, free(tract, "another"), "one that is set aside leaves its tag free")
	second := aTree("LC-1")
	require.NoError(t, addTree(s, second), "two may come from two devices")
	got, err := s.TreeByTag(t.Context(), tract, "LC-1")
	require.NoError(t, err)
	require.Equal(t, second.ID, got.ID, "the one that is not set aside")
}

func TestNoSuchTree(t *testing.T) {
	t.Parallel()
	s := open(t, filepath.Join(t.TempDir(), "book.db"))
	_, err := s.Tree(t.Context(), "nothing")
	require.ErrorIs(t, err, store.ErrNoTree)
	require.Error(t, appendTo(s, "nothing", aScore("x")), "an entry needs its tree")
}

// TestManyWriters writes from many goroutines at once; nothing is lost.
func TestManyWriters(t *testing.T) {
	t.Parallel()
	s := open(t, filepath.Join(t.TempDir(), "book.db"))
	tree := aTree("LC-1")
	require.NoError(t, addTree(s, tree))
	const writers, each = 8, 25
	var wg sync.WaitGroup
	errs := make(chan error, writers*each)
	for range writers {
		wg.Go(func() {
			for range each {
				errs <- appendTo(s, tree.ID, aScore("x"))
			}
		})
	}
	wg.Wait()
	close(errs)
	for err := range errs {
		require.NoError(t, err)
	}
	_, log, err := s.Log(t.Context(), tree.ID)
	require.NoError(t, err)
	require.Len(t, log, writers*each)
}

func TestPages(t *testing.T) {
	t.Parallel()
	s := open(t, filepath.Join(t.TempDir(), "book.db"))
	for _, tag := range []string{"LC-3", "LC-1", "LC-2"} {
		tree := aTree(tag)
		require.NoError(t, addTree(s, tree))
		require.NoError(t, stand(s, tree.ID, store.Standing{Status: "open", Basis: "1"}))
	}
	page, total, err := s.Trees(t.Context(), store.Query{}, 2, 1)
	require.NoError(t, err)
	require.Equal(t, 3, total)
	require.Equal(t, []string{"LC-2", "LC-3"}, []string{page[0].Tag, page[1].Tag})
	n, err := s.CountTrees(t.Context())
	require.NoError(t, err)
	require.Equal(t, 3, n)
}

func TestNotABook(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	require.NoError(t, os.WriteFile(path, []byte("not a database, but long enough to be taken for one by its size alone"), 0o600))
	_, err := store.Open(t.Context(), path)
	require.Error(t, err)
}

// TestSnapshot: what is written meanwhile is not in it, and it may be asked for a
// tree while it lists them.
func TestSnapshot(t *testing.T) {
	t.Parallel()
	s := open(t, filepath.Join(t.TempDir(), "book.db"))
	tree := aTree("LC-1")
	require.NoError(t, addTree(s, tree, logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindNote, Note: "leans"}))
	require.NoError(t, stand(s, tree.ID, store.Standing{Status: "open"}))
	snap, err := s.Snapshot(t.Context())
	require.NoError(t, err)
	n, err := snap.CountTrees(t.Context())
	require.NoError(t, err)
	require.Equal(t, 1, n)
	require.NoError(t, addTree(s, aTree("LC-2")))
	n, err = snap.CountTrees(t.Context())
	require.NoError(t, err)
	require.Equal(t, 1, n, "as it was")
	seen := 0
	require.NoError(t, snap.EachTree(t.Context(), store.Query{}, func(l *store.Line) error {
		seen++
		_, log, err := snap.Log(t.Context(), l.ID)
		require.Len(t, log, 1)
		return err
	}))
	require.Equal(t, 1, seen)
	require.NoError(t, snap.Close())
	n, err = s.CountTrees(t.Context())
	require.NoError(t, err)
	require.Equal(t, 2, n)
}

// TestReadersCannotWrite: a slip in a query cannot change the book.
func TestReadersCannotWrite(t *testing.T) {
	t.Parallel()
	s := open(t, filepath.Join(t.TempDir(), "book.db"))
	require.NoError(t, addTree(s, aTree("LC-1")))
	require.True(t, store.ReadOnly(s.WriteByReader(t.Context(), "DELETE FROM tree")))
}

// TestStandingOfAChangedTree: one worked out before somebody changed the tree is not
// kept.
func TestStandingOfAChangedTree(t *testing.T) {
	t.Parallel()
	s := open(t, filepath.Join(t.TempDir(), "book.db"))
	tree := aTree("LC-1")
	require.NoError(t, addTree(s, tree))
	before, err := s.Tree(t.Context(), tree.ID)
	require.NoError(t, err)
	require.NoError(t, appendTo(s, tree.ID, &logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindNote, Note: "leans"}))
	err = s.Write(t.Context(), func(tx *store.Tx) error {
		return tx.KeepStanding(t.Context(), &before, &store.Standing{Status: "open"})
	})
	require.ErrorIs(t, err, store.ErrChanged)
	_, err = s.Standing(t.Context(), tree.ID)
	require.ErrorIs(t, err, store.ErrNoTree)
}

// TestStale finds standings that are missing, of another flora, or of a list that
// changed.
func TestStale(t *testing.T) {
	t.Parallel()
	s := open(t, filepath.Join(t.TempDir(), "book.db"))
	var ids []string
	for _, tag := range []string{"LC-1", "LC-2", "LC-3"} {
		tree := aTree(tag)
		ids = append(ids, tree.ID)
		require.NoError(t, addTree(s, tree))
	}
	require.NoError(t, stand(s, ids[0], store.Standing{Basis: "1"}))
	require.NoError(t, stand(s, ids[1], store.Standing{Basis: "2"}))
	basis := []store.Basis{{Region: "eastern-north-america", Digest: "1"}, {Region: "eastern-north-america", List: "ours", Digest: "9"}}
	stale, err := s.Stale(t.Context(), basis, "", 10)
	require.NoError(t, err)
	require.ElementsMatch(t, ids[1:], stale)
	n, err := s.CountStale(t.Context(), basis)
	require.NoError(t, err)
	require.Equal(t, 2, n)
	first, err := s.Stale(t.Context(), basis, "", 1)
	require.NoError(t, err)
	rest, err := s.Stale(t.Context(), basis, first[0], 10)
	require.NoError(t, err)
	require.Equal(t, []string{stale[1]}, rest)
}

// TestSettings keeps a value under a name; it is read from outside as well.
func TestSettings(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	none, err := store.Peek(t.Context(), path, "colour")
	require.NoError(t, err)
	require.Empty(t, none, "there is no book yet")
	s := open(t, path)
	for _, value := range []string{"red", "brown"} {
		require.NoError(t, s.Write(t.Context(), func(tx *store.Tx) error { return tx.PutSetting(t.Context(), "colour", value) }))
	}
	got, err := store.Peek(t.Context(), path, "colour")
	require.NoError(t, err)
	require.Equal(t, "brown", got)
}

// TestAnotherProgramsDatabase is left as it is, to the byte.
func TestAnotherProgramsDatabase(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "theirs.db")
	db, err := sqlx.Open("sqlite", path)
	require.NoError(t, err)
	_, err = db.Exec("CREATE TABLE song (name TEXT); INSERT INTO song VALUES ('x')")
	require.NoError(t, err)
	require.NoError(t, db.Close())
	before, err := os.ReadFile(path)
	require.NoError(t, err)
	_, err = store.Open(t.Context(), path)
	require.ErrorIs(t, err, store.ErrNotOurs)
	after, err := os.ReadFile(path)
	require.NoError(t, err)
	require.Equal(t, before, after)
}

// TestTidy: a book is its owner's to read, and what was cut short an hour ago goes.
func TestTidy(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	require.NoError(t, open(t, path).Close())
	require.NoError(t, os.Chmod(path, 0o644))
	folder := path + ".photos"
	require.NoError(t, os.MkdirAll(folder, 0o700))
	old, fresh := filepath.Join(folder, "part-1"), filepath.Join(folder, "part-2")
	for _, part := range []string{old, fresh} {
		require.NoError(t, os.WriteFile(part, []byte("x"), 0o600))
	}
	require.NoError(t, os.Chtimes(old, time.Now(), time.Now().Add(-2*time.Hour)))
	open(t, path)
	for _, end := range []string{"", "-wal"} {
		info, err := os.Stat(path + end)
		require.NoError(t, err)
		require.Zero(t, info.Mode().Perm()&0o077, end)
	}
	require.NoFileExists(t, old)
	require.FileExists(t, fresh)
}
