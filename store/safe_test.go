package store_test

import (
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"strconv"
	"strings"
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

// old runs a statement on a book before it is opened.
func old(t *testing.T, path, statement string, args ...any) {
	t.Helper()
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	_, err = db.ExecContext(t.Context(), statement, args...)
	require.NoError(t, errors.Join(err, db.Close()))
}

// TestEarlierBooks opens a book of each earlier schema: its log is as it was, and
// its looks have visits.
func TestEarlierBooks(t *testing.T) {
	t.Parallel()
	names, err := fs.Glob(os.DirFS("migrations"), "*.sql")
	require.NoError(t, err)
	logs := int64(5) // from then on the log has an order of its own, and its entries are written otherwise
	for version := range min(int64(len(names)), logs) {
		if version == 0 {
			continue
		}
		t.Run(strconv.Itoa(int(version)), func(t *testing.T) {
			path := filepath.Join(t.TempDir(), "book.db")
			tree, log := oldBook(t, path, version)
			s := open(t, path)
			_, got, err := s.Log(t.Context(), tree)
			require.NoError(t, err)
			require.Equal(t, logbook.KindStart, got[0].Kind, "a tree begins with how it was started")
			require.Equal(t, "LC-1", got[0].Start.Tag)
			require.Equal(t, []string{log[0].ID, log[1].ID}, []string{got[1].ID, got[2].ID})
			require.Equal(t, log[1].Score, got[2].Score)
			visits, err := s.VisitsOf(t.Context(), tree)
			require.NoError(t, err)
			require.Equal(t, "Wren Halloran", visits[log[0].ID].Crew)
			require.NoError(t, stand(s, tree, store.Standing{Status: "open"}))
			_, total, err := s.Trees(t.Context(), store.Query{}, 10, 0)
			require.NoError(t, err)
			require.Equal(t, 1, total)
			require.NoError(t, s.Close())
			require.NoError(t, store.Check(t.Context(), path))
		})
	}
}

// TestListsMoveToTheirField: where an earlier book has a list in place of a region, the
// tree and its entries say both apart afterwards.
func TestListsMoveToTheirField(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	tree, log := oldBook(t, path, 3)
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	run := func(query string, args ...any) {
		_, err := db.ExecContext(t.Context(), query, args...)
		require.NoError(t, err)
	}
	run(`INSERT INTO list (name, body) VALUES ('Avenue', '{"name": "Avenue", "region": "british-isles", "taxa": {}}')`)
	run("UPDATE tree SET region = 'Avenue'")
	for i, region := range []string{"british-isles", "Avenue", "from a file"} {
		id := fmt.Sprintf("%s%02d", log[1].ID[:24], 90+i)
		run(
			"INSERT INTO entry (id, tree_id, body) VALUES (?, ?, ?)",
			id,
			tree,
			fmt.Sprintf(`{"id": %q, "kind": "facts", "facts": {"snow": "deep", "region": %q}}`, id, region),
		)
	}
	require.NoError(t, db.Close())

	s := open(t, path)
	got, entries, err := s.Log(t.Context(), tree)
	require.NoError(t, err)
	require.Equal(t, logbook.Among{Region: "british-isles", List: "Avenue"}, got.Started())
	var among []logbook.Among
	for _, e := range entries {
		if e.Kind == logbook.KindFacts {
			require.Equal(t, "deep", *e.Facts.Snow, "nothing else is touched")
			among = append(among, *e.Facts.Among)
		}
	}
	require.Equal(t, []logbook.Among{{Region: "british-isles"}, {Region: "british-isles", List: "Avenue"},
		{Region: "eastern-north-america", List: "from a file"}}, among)
	again := entries[len(entries)-1]
	require.NoError(t, appendTo(s, tree, &again), "sent again, it is the same entry, however it is written")
}

// TestFullDisk: on a full disk nothing half-written stays, what was kept is kept,
// and once there is room the same entries go in.
func TestFullDisk(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	s := open(t, path)
	tree := aTree("LC-1")
	look := logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindLook, From: "tree"}
	require.NoError(t, addTree(s, tree, look))
	pages, err := s.Pages(t.Context())
	require.NoError(t, err)
	require.NoError(t, s.LimitPages(t.Context(), pages))
	var kept []*logbook.Entry
	var full error
	for range 2000 {
		e := aScore(look.ID)
		if full = appendTo(s, tree.ID, e); full != nil {
			break
		}
		kept = append(kept, e)
	}
	require.True(t, store.Full(full), "%v", full)
	_, log, err := s.Log(t.Context(), tree.ID)
	require.NoError(t, err)
	require.Len(t, log, 1+len(kept))
	batch := func() error {
		return s.Write(t.Context(), func(tx *store.Tx) error {
			for i := range 500 {
				another := aTree("B-" + strconv.Itoa(i))
				if err := tx.AddTree(t.Context(), &another, ""); err != nil {
					return err
				}
			}
			return nil
		})
	}
	require.True(t, store.Full(batch()))
	n, err := s.CountTrees(t.Context())
	require.NoError(t, err)
	require.Equal(t, 1, n, "nothing of the batch stayed")
	require.NoError(t, s.LimitPages(t.Context(), 1<<30))
	require.NoError(t, batch())
	require.NoError(t, s.Close())
	require.NoError(t, store.Check(t.Context(), path))
}

func TestReadOnly(t *testing.T) {
	t.Parallel()
	s := open(t, filepath.Join(t.TempDir(), "book.db"))
	tree := aTree("LC-1")
	require.NoError(t, addTree(s, tree))
	require.NoError(t, s.ForbidWriting(t.Context()))
	require.True(t, store.ReadOnly(addTree(s, aTree("LC-2"))))
	_, err := s.Tree(t.Context(), tree.ID)
	require.NoError(t, err, "reading goes on")
}

// TestDamagedBook overwrites the middle of a book: it is said in one line what to
// do, and the file is left as it is.
func TestDamagedBook(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	s := open(t, path)
	for i := range 200 {
		require.NoError(
			t,
			addTree(s, aTree("LC-"+strconv.Itoa(i)), logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindNote, Note: "leans"}),
		)
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

// keepPicture keeps a photograph that holds no more than a word.
func keepPicture(t *testing.T, s *store.Store) error {
	t.Helper()
	file, err := s.Receive(strings.NewReader("picture"))
	require.NoError(t, err)
	return errors.Join(s.KeepPhotoFile(t.Context(), file, []byte("thumb")), file.Close())
}

// TestPhotographsGoIntoBackups keeps a photograph, backs the book up and restores
// it; a missing file is found.
func TestPhotographsGoIntoBackups(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	s := open(t, filepath.Join(dir, "book.db"))
	tree := aTree("LC-1")
	require.NoError(t, addTree(s, tree))
	sum := sha256.Sum256([]byte("picture"))
	digest := hex.EncodeToString(sum[:])
	p := store.Photo{ID: ulid.Make().String(), Tree: tree.ID, Digest: digest, Kind: "image/jpeg"}
	add := func(p store.Photo) error {
		return s.Write(t.Context(), func(tx *store.Tx) error { return tx.AddPhoto(t.Context(), p) })
	}
	require.NoError(t, keepPicture(t, s))
	require.NoError(t, add(p))
	require.ErrorContains(t, add(store.Photo{ID: ulid.Make().String(), Tree: "nothing", Digest: digest}), "FOREIGN KEY")
	backup, again := filepath.Join(dir, "backup.db"), filepath.Join(dir, "again.db")
	require.NoError(t, store.Backup(t.Context(), filepath.Join(dir, "book.db"), backup))
	require.NoError(t, store.Restore(t.Context(), backup, again))
	r := open(t, again)
	photos, err := r.PhotosOf(t.Context(), tree.ID)
	require.NoError(t, err)
	require.Len(t, photos, 1)
	for thumb, holds := range map[bool]string{false: "picture", true: "thumb"} {
		_, file, err := r.PhotoFile(t.Context(), p.ID, thumb)
		require.NoError(t, err)
		there, err := io.ReadAll(file)
		require.NoError(t, errors.Join(err, file.Close()))
		require.Equal(t, holds, string(there))
	}
	kept := filepath.Join(again+".photos", digest)
	require.NoError(t, os.Remove(kept+".thumb"))
	require.ErrorContains(t, store.Check(t.Context(), again), "photographs are missing")
	require.NoError(t, os.WriteFile(kept, []byte("p1cture"), 0o600))
	require.ErrorContains(t, store.Check(t.Context(), again), "1 photographs in "+again+".photos are damaged")
	require.ErrorContains(t, store.Backup(t.Context(), again, filepath.Join(dir, "third.db")), "damaged")
	require.NoError(t, keepPicture(t, r), "sent again")
	require.NoError(t, store.Check(t.Context(), again))
	show := func(ids ...string) {
		require.NoError(t, r.Write(t.Context(), func(tx *store.Tx) error { return tx.ShowPhotos(t.Context(), tree.ID, ids) }))
	}
	show()
	photos, err = r.PhotosOf(t.Context(), tree.ID)
	require.NoError(t, err)
	require.Empty(t, photos)
	_, _, err = r.PhotoFile(t.Context(), p.ID, false)
	require.ErrorIs(t, err, store.ErrNoPhoto, "one taken back is not served")
	show(p.ID)
	_, _, err = r.PhotoFile(t.Context(), p.ID, false)
	require.NoError(t, err)
}

// TestExpectedPhotographs: a photograph whose file a device still has to send is no damage. Once it
// was here and is gone, it is.
func TestExpectedPhotographs(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	path := filepath.Join(dir, "book.db")
	s := open(t, path)
	tree := aTree("LC-1")
	require.NoError(t, addTree(s, tree))
	sum := sha256.Sum256([]byte("picture"))
	p := store.Photo{ID: ulid.Make().String(), Tree: tree.ID, Digest: hex.EncodeToString(sum[:]), Kind: "image/jpeg"}
	require.NoError(t, s.Write(t.Context(), func(tx *store.Tx) error { return tx.AddPhoto(t.Context(), p) }))
	require.NoError(t, store.Check(t.Context(), path))
	backup := filepath.Join(dir, "backup.db")
	require.NoError(t, store.Backup(t.Context(), path, backup))
	for _, book := range []string{path, backup} {
		ids, err := store.Expected(t.Context(), book)
		require.NoError(t, err)
		require.Equal(t, []string{p.ID}, ids)
	}
	require.NoError(t, keepPicture(t, s))
	ids, err := store.Expected(t.Context(), path)
	require.NoError(t, err)
	require.Empty(t, ids)
	require.NoError(t, os.Remove(filepath.Join(path+".photos", p.Digest)))
	require.ErrorContains(t, store.Check(t.Context(), path), "photographs are missing")
}
