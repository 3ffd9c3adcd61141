package store

import (
	"context"
	"database/sql"
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

// AddPhoto keeps a photograph's line. Adding the same one again changes nothing;
// another of its id is [ErrIDTaken].
func (t *Tx) AddPhoto(ctx context.Context, p Photo) error {
	var old Photo
	switch err := t.get(ctx, &old, selectPhoto+" WHERE id = ?", p.ID); {
	case err == nil && old.Digest == p.Digest && old.Tree == p.Tree && old.Look == p.Look:
		return nil
	case err == nil:
		return ErrIDTaken
	case !errors.Is(err, sql.ErrNoRows):
		return err
	}
	return t.exec(ctx, `INSERT INTO photo (id, tree_id, look_id, digest, kind, bytes, width, height, taken, lon, lat, by, caption)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		p.ID, p.Tree, p.Look, p.Digest, p.Kind, p.Bytes, p.Width, p.Height, p.Taken, p.Lon, p.Lat, p.By, p.Caption)
}

// MarkPhoto takes a photograph back, or puts it back, or gives [ErrNoPhoto].
func (t *Tx) MarkPhoto(ctx context.Context, id string, gone bool) error {
	return t.changed(ctx, ErrNoPhoto, "UPDATE photo SET gone = ? WHERE id = ?", gone, id)
}

// PhotoFile gives a photograph and where its file is, or that of its thumbnail.
func (r Reader) PhotoFile(ctx context.Context, id string, thumb bool) (p Photo, path string, err error) {
	err = r.get(ctx, &p, selectPhoto+" WHERE id = ?", id)
	if err != nil {
		return p, "", noRow(err, ErrNoPhoto)
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

func writeWhole(path string, body []byte) error {
	if _, err := os.Stat(path); err == nil {
		return nil // named after what it holds
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

// lostPhotos counts the lines whose file is not there.
func lostPhotos(ctx context.Context, db *sqlx.DB, book string) (lost int, err error) {
	var digests []string
	if err := db.SelectContext(ctx, &digests, "SELECT DISTINCT digest FROM photo"); err != nil {
		return 0, err
	}
	for _, d := range digests {
		for _, name := range []string{d, d + thumbSuffix} {
			if _, err := os.Stat(filepath.Join(photoDir(book), name)); err != nil {
				lost++
			}
		}
	}
	return lost, nil
}
