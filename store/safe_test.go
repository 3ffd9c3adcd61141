package store_test

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"strconv"
	"testing"

	"github.com/oklog/ulid/v2"
	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/require"

	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// oldBook makes a book as an earlier version left it: a tree with a look and a
// score.
func oldBook(t *testing.T, path string, version int64) (tree string, log []logbook.Entry) {
	t.Helper()
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	defer db.Close()
	p, err := goose.NewProvider(goose.DialectSQLite3, db, os.DirFS("migrations"))
	require.NoError(t, err)
	_, err = p.UpTo(t.Context(), version)
	require.NoError(t, err)
	tree = ulid.Make().String()
	look := logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindLook, From: "tree", By: "Wren Halloran"}
	log = []logbook.Entry{look, *aScore(look.ID)}
	run := func(query string, args ...any) {
		_, err := db.ExecContext(t.Context(), query, args...)
		require.NoError(t, err)
	}
	run("INSERT INTO tract (id, name) VALUES ('t', 'Lantern Creek watershed forest')")
	run("INSERT INTO stand (id, tract_id, name) VALUES ('s', 't', 'Upper slope')")
	run("INSERT INTO tree (id, stand_id, tract_id, tag, region) VALUES (?, 's', 't', 'LC-1', 'eastern-north-america')", tree)
	for _, e := range log {
		body, err := json.Marshal(e)
		require.NoError(t, err)
		run("INSERT INTO entry (id, tree_id, body) VALUES (?, ?, ?)", e.ID, tree, string(body))
	}
	return tree, log
}

// TestEarlierBooks opens a book of each earlier schema: its log is as it was, and
// its looks have visits.
func TestEarlierBooks(t *testing.T) {
	names, err := fs.Glob(os.DirFS("migrations"), "*.sql")
	require.NoError(t, err)
	for version := range int64(len(names)) {
		if version == 0 {
			continue
		}
		t.Run(strconv.Itoa(int(version)), func(t *testing.T) {
			path := filepath.Join(t.TempDir(), "book.db")
			tree, log := oldBook(t, path, version)
			s := open(t, path)
			got, err := s.Entries(t.Context(), tree)
			require.NoError(t, err)
			require.Equal(t, log, got)
			visits, err := s.VisitsOf(t.Context(), tree)
			require.NoError(t, err)
			require.Equal(t, "Wren Halloran", visits[log[0].ID].Crew)
			require.NoError(t, s.WeighStale(t.Context(), map[string]string{"eastern-north-america": "1"}, anyStanding, func(int, int) {}))
			_, total, err := s.Trees(t.Context(), store.Query{}, 10, 0)
			require.NoError(t, err)
			require.Equal(t, 1, total)
			require.NoError(t, s.Close())
			require.NoError(t, store.Check(t.Context(), path))
		})
	}
}

// TestFullDisk: on a full disk nothing half-written stays, what was kept is kept,
// and once there is room the same entries go in.
func TestFullDisk(t *testing.T) {
	path := filepath.Join(t.TempDir(), "book.db")
	s := open(t, path)
	tree := aTree("LC-1")
	look := logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindLook, From: "tree"}
	require.NoError(t, s.AddTree(t.Context(), tree, look))
	pages, err := s.Pages(t.Context())
	require.NoError(t, err)
	require.NoError(t, s.LimitPages(t.Context(), pages))
	var kept []*logbook.Entry
	var full error
	for range 2000 {
		e := aScore(look.ID)
		if full = s.Append(t.Context(), tree.ID, nil, e); full != nil {
			break
		}
		kept = append(kept, e)
	}
	require.True(t, store.Full(full), "%v", full)
	log, err := s.Entries(t.Context(), tree.ID)
	require.NoError(t, err)
	require.Len(t, log, 1+len(kept))
	batch := make([]store.TreeLog, 500)
	for i := range batch {
		batch[i] = store.TreeLog{Tree: aTree("B-" + strconv.Itoa(i))}
	}
	require.True(t, store.Full(s.AddBatch(t.Context(), nil, batch, nil)))
	n, err := s.Count(t.Context())
	require.NoError(t, err)
	require.Equal(t, 1, n, "nothing of the batch stayed")
	require.NoError(t, s.LimitPages(t.Context(), 1<<30))
	require.NoError(t, s.AddBatch(t.Context(), nil, batch, nil))
	require.NoError(t, s.Close())
	require.NoError(t, store.Check(t.Context(), path))
}

func TestReadOnly(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "book.db"))
	tree := aTree("LC-1")
	require.NoError(t, s.AddTree(t.Context(), tree))
	require.NoError(t, s.ForbidWriting(t.Context()))
	require.True(t, store.ReadOnly(s.AddTree(t.Context(), aTree("LC-2"))))
	_, err := s.Tree(t.Context(), tree.ID)
	require.NoError(t, err, "reading goes on")
}

// TestDamagedBook overwrites the middle of a book: it is said in one line what to
// do, and the file is left as it is.
func TestDamagedBook(t *testing.T) {
	path := filepath.Join(t.TempDir(), "book.db")
	s := open(t, path)
	for i := range 200 {
		require.NoError(t, s.AddTree(t.Context(), aTree("LC-"+strconv.Itoa(i)), logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindNote, Note: "leans"}))
	}
	require.NoError(t, s.Close())
	file, err := os.ReadFile(path)
	require.NoError(t, err)
	for i := 4096; i < len(file)-4096; i++ {
		file[i] ^= 0x5a
	}
	require.NoError(t, os.WriteFile(path, file, 0o600))
	require.ErrorContains(t, store.Check(t.Context(), path), "restore the latest backup")
	s, err = store.Open(t.Context(), path)
	if err == nil {
		_, _, err = s.Trees(t.Context(), store.Query{}, 10, 0)
		err = errors.Join(err, s.Close())
	}
	require.Error(t, err)
	require.ErrorContains(t, err, "restore the latest backup")
	now, err := os.ReadFile(path)
	require.NoError(t, err)
	require.Equal(t, len(file), len(now))
}

// TestPhotographsGoIntoBackups keeps a photograph, backs the book up and restores
// it; a missing file is found.
func TestPhotographsGoIntoBackups(t *testing.T) {
	dir := t.TempDir()
	s := open(t, filepath.Join(dir, "book.db"))
	tree := aTree("LC-1")
	require.NoError(t, s.AddTree(t.Context(), tree))
	digest := string(bytes.Repeat([]byte("ab"), 32))
	p := store.Photo{ID: ulid.Make().String(), Tree: tree.ID, Digest: digest, Kind: "image/jpeg"}
	require.NoError(t, s.AddPhoto(t.Context(), p, []byte("picture"), []byte("thumb")))
	require.NoError(t, s.AddPhoto(t.Context(), p, []byte("picture"), []byte("thumb")), "again changes nothing")
	require.Error(t, s.AddPhoto(t.Context(), store.Photo{ID: ulid.Make().String(), Tree: "nothing", Digest: digest}, nil, nil))
	backup, again := filepath.Join(dir, "backup.db"), filepath.Join(dir, "again.db")
	require.NoError(t, store.Backup(t.Context(), filepath.Join(dir, "book.db"), backup))
	require.NoError(t, store.Restore(t.Context(), backup, again))
	r := open(t, again)
	photos, err := r.PhotosOf(t.Context(), tree.ID)
	require.NoError(t, err)
	require.Len(t, photos, 1)
	_, file, err := r.PhotoFile(t.Context(), p.ID, false)
	require.NoError(t, err)
	require.Equal(t, "picture", readAll(t, file))
	_, file, err = r.PhotoFile(t.Context(), p.ID, true)
	require.NoError(t, err)
	require.Equal(t, "thumb", readAll(t, file))
	require.NoError(t, os.Remove(file))
	require.ErrorContains(t, store.Check(context.Background(), again), "photographs are missing")
	require.NoError(t, r.MarkPhoto(t.Context(), p.ID, true))
	photos, err = r.PhotosOf(t.Context(), tree.ID)
	require.NoError(t, err)
	require.Empty(t, photos)
	require.ErrorIs(t, r.MarkPhoto(t.Context(), "nothing", true), store.ErrNoPhoto)
}

func readAll(t *testing.T, path string) string {
	t.Helper()
	text, err := os.ReadFile(path)
	require.NoError(t, err)
	return string(text)
}
