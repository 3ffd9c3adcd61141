package store

import (
	"bytes"
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"

	"github.com/jmoiron/sqlx"
)

// Photo is a photograph of a look. Its file lies beside the book, under the
// digest of what it holds, so that the same photograph is kept once.
type Photo struct {
	ID      string   `db:"id"`
	Tree    string   `db:"tree_id"`
	Look    string   `db:"look_id"` // id of the look; empty: of the tree at large
	Digest  string   `db:"digest"`
	Kind    string   `db:"kind"`
	Bytes   int      `db:"bytes"`
	Width   int      `db:"width"`
	Height  int      `db:"height"`
	Taken   string   `db:"taken"` // when, if the file says so and it might be read; else empty
	Lon     *float64 `db:"lon"`
	Lat     *float64 `db:"lat"`
	By      string   `db:"by"`
	Caption string   `db:"caption"`
	Gone    bool     `db:"gone"` // taken back; the file stays
}

const selectPhoto = `SELECT id, tree_id, look_id, digest, kind, bytes, width, height, taken, lon, lat, by, caption, gone FROM photo`

// PhotosOf lists a tree's photographs, without those taken back.
func (r Reader) PhotosOf(ctx context.Context, tree string) ([]Photo, error) {
	photos := []Photo{}
	if err := r.all(ctx, &photos, selectPhoto+" WHERE tree_id = ? AND gone = 0 ORDER BY id", tree); err != nil {
		return nil, fmt.Errorf("listing photographs: %w", err)
	}
	return photos, nil
}

// KeepPhotoFile keeps a photograph's file and thumbnail under its digest. It comes
// before [Tx.AddPhoto], so that no line is without its file.
func (s *Store) KeepPhotoFile(digest string, file, thumb []byte) error {
	if err := errors.Join(s.keepFile(digest, file), s.keepFile(digest+thumbSuffix, thumb)); err != nil {
		return fmt.Errorf("keeping a photograph: %w", err)
	}
	return nil
}

// AddPhoto keeps the line of a photograph that was put up; one that is there stays.
func (t *Tx) AddPhoto(ctx context.Context, p Photo) error {
	return t.exec(ctx, `INSERT INTO photo (id, tree_id, look_id, digest, kind, bytes, width, height, taken, lon, lat, by, caption)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (id) DO NOTHING`,
		p.ID, p.Tree, p.Look, p.Digest, p.Kind, p.Bytes, p.Width, p.Height, p.Taken, p.Lon, p.Lat, p.By, p.Caption)
}

// ShowPhotos has only these of a tree's photographs shown; the others were taken back.
func (t *Tx) ShowPhotos(ctx context.Context, tree string, ids []string) error {
	return t.exec(ctx, "UPDATE photo SET gone = id NOT IN ("+marks(len(ids))+") WHERE tree_id = ?", append(anys(ids), tree)...)
}

// Photo gives a photograph, taken back or not, or [ErrNoPhoto].
func (r Reader) Photo(ctx context.Context, id string) (p Photo, err error) {
	return p, noRow(r.get(ctx, &p, selectPhoto+" WHERE id = ?", id), ErrNoPhoto)
}

// PhotoFile gives a photograph and where its file is, or that of its thumbnail. One
// that was taken back gives [ErrNoPhoto].
func (r Reader) PhotoFile(ctx context.Context, id string, thumb bool) (p Photo, path string, err error) {
	if p, err = r.Photo(ctx, id); err != nil || p.Gone {
		return p, "", cmp.Or(err, ErrNoPhoto)
	}
	name := p.Digest
	if thumb {
		name += thumbSuffix
	}
	return p, filepath.Join(photoDir(r.path), name), nil
}

const thumbSuffix = ".thumb"

// photoDir is the folder beside a book that its photographs lie in.
func photoDir(book string) string { return book + ".photos" }

// keepFile writes a file whole and sees it to the disk, or not at all.
func (s *Store) keepFile(name string, body []byte) error {
	dir := photoDir(s.path)
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return err
	}
	return writeWhole(filepath.Join(dir, name), body)
}

// writeWhole writes a file that is named after what it holds; one that is there and
// holds something else was damaged, and is written again.
func writeWhole(path string, body []byte) error {
	if there, err := os.ReadFile(path); err == nil && bytes.Equal(there, body) {
		return nil
	}
	part, err := os.CreateTemp(filepath.Dir(path), "part-")
	if err != nil {
		return err
	}
	_, err = part.Write(body)
	if err := errors.Join(err, part.Sync(), part.Close()); err != nil {
		return errors.Join(err, discard(part.Name()))
	}
	if err := os.Rename(part.Name(), path); err != nil {
		return errors.Join(err, discard(part.Name()))
	}
	return nil
}

// copyPhotos copies the photographs beside one book beside another.
func copyPhotos(from, to string) error {
	files, err := os.ReadDir(photoDir(from))
	if errors.Is(err, fs.ErrNotExist) {
		return nil // it has none
	}
	if err != nil {
		return err
	}
	if err := os.MkdirAll(photoDir(to), 0o700); err != nil {
		return err
	}
	for _, f := range files {
		if f.IsDir() || len(f.Name()) < 64 { // what was cut short
			continue
		}
		body, err := os.ReadFile(filepath.Join(photoDir(from), f.Name()))
		if err != nil {
			return err
		}
		if err := writeWhole(filepath.Join(photoDir(to), f.Name()), body); err != nil {
			return err
		}
	}
	return nil
}

// lostPhotos counts the files that are not there, and those that do not hold what
// they are named after.
func lostPhotos(ctx context.Context, db *sqlx.DB, book string) (lost, damaged int, err error) {
	var digests []string
	if err := db.SelectContext(ctx, &digests, "SELECT DISTINCT digest FROM photo"); err != nil {
		return 0, 0, err
	}
	for _, d := range digests {
		path := filepath.Join(photoDir(book), d)
		body, err := os.ReadFile(path)
		if err != nil {
			lost++
			continue
		}
		if sum := sha256.Sum256(body); hex.EncodeToString(sum[:]) != d {
			damaged++
		}
		if _, err := os.Stat(path + thumbSuffix); err != nil {
			lost++
		}
	}
	return lost, damaged, nil
}
