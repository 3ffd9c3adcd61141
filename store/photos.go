package store

import (
	"bytes"
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
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

// Received is a photograph's file before it is kept: beside the book, or in a device's memory.
type Received struct {
	io.ReadSeeker
	Digest string // SHA-256, in hex
	Bytes  int64
	part   string       // the file's path; empty: it is in memory
	drop   func() error // nil: there is nothing to remove
}

// Close removes a file that was not kept.
func (f *Received) Close() error {
	if f.drop == nil {
		return nil
	}
	return f.drop()
}

// receiveInMemory takes a file in where there is no folder for it.
func receiveInMemory(r io.Reader) (*Received, error) {
	body, err := io.ReadAll(r)
	if err != nil {
		return nil, err
	}
	sum := sha256.Sum256(body)
	return &Received{ReadSeeker: bytes.NewReader(body), Digest: hex.EncodeToString(sum[:]), Bytes: int64(len(body))}, nil
}

// KeepPhotoFile keeps a photograph's file and thumbnail under its digest. It comes
// before [Tx.AddPhoto], so that no line is without its file.
func (s *Store) KeepPhotoFile(ctx context.Context, file *Received, thumb []byte) error {
	if err := errors.Join(s.keepReceived(ctx, file), s.keepFile(ctx, file.Digest+thumbSuffix, thumb)); err != nil {
		return fmt.Errorf("keeping a photograph: %w", err)
	}
	return s.Write(ctx, func(tx *Tx) error {
		return tx.exec(ctx, "UPDATE photo SET arrived = 1 WHERE digest = ? AND arrived = 0", file.Digest)
	})
}

// keepReceivedInBook keeps a file in the book of a device.
func (s *Store) keepReceivedInBook(ctx context.Context, file *Received) error {
	if _, err := file.Seek(0, io.SeekStart); err != nil {
		return err
	}
	body, err := io.ReadAll(file)
	if err != nil {
		return err
	}
	return s.keepInBook(ctx, file.Digest, body)
}

// AddPhoto keeps the line of a photograph that was put up; one that is there stays. Without its
// file, which a device may still have to send, it is expected.
func (t *Tx) AddPhoto(ctx context.Context, p Photo) error {
	return t.exec(ctx, `INSERT INTO photo (id, tree_id, look_id, digest, kind, bytes, width, height, taken, lon, lat, by, caption, arrived)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (id) DO NOTHING`,
		p.ID, p.Tree, p.Look, p.Digest, p.Kind, p.Bytes, p.Width, p.Height, p.Taken, p.Lon, p.Lat, p.By, p.Caption, t.hasFile(p.Digest))
}

// ShowPhotos has only these of a tree's photographs shown; the others were taken back.
func (t *Tx) ShowPhotos(ctx context.Context, tree string, ids []string) error {
	return t.exec(ctx, "UPDATE photo SET gone = id NOT IN ("+marks(len(ids))+") WHERE tree_id = ?", append(anys(ids), tree)...)
}

// Photo gives a photograph, taken back or not, or [ErrNoPhoto].
func (r Reader) Photo(ctx context.Context, id string) (p Photo, err error) {
	return p, noRow(r.get(ctx, &p, selectPhoto+" WHERE id = ?", id), ErrNoPhoto)
}

// PhotoFile opens the file of a photograph, or of its thumbnail. One that was taken
// back, or whose file is not here, gives [ErrNoPhoto].
func (r Reader) PhotoFile(ctx context.Context, id string, thumb bool) (p Photo, file io.ReadSeekCloser, err error) {
	if p, err = r.Photo(ctx, id); err != nil || p.Gone {
		return p, nil, cmp.Or(err, ErrNoPhoto)
	}
	name := p.Digest
	if thumb {
		name += thumbSuffix
	}
	file, err = r.openFile(ctx, name)
	return p, file, err
}

// fileInBook opens a file that is kept in the book.
func (r Reader) fileInBook(ctx context.Context, name string) (io.ReadSeekCloser, error) {
	body, err := r.File(ctx, name)
	if err != nil {
		return nil, err
	}
	return inMemory{bytes.NewReader(body)}, nil
}

type inMemory struct{ io.ReadSeeker }

func (inMemory) Close() error { return nil }

const thumbSuffix = ".thumb"
