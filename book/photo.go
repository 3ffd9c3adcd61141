package book

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"os"
	"slices"
	"time"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/photo"
	"palethicket/store"
)

// decoders bounds how many photographs are unpacked at once, as a large one
// takes hundreds of megabytes.
var decoders = make(chan struct{}, 1)

// PhotoMost is how many bytes a photograph may have.
const PhotoMost = photo.MaxBytes

// NewPhoto is a photograph as it comes.
type NewPhoto struct {
	ID           string
	Tree         string
	Look         string // empty: of the tree at large
	By           string
	Caption      string
	ReadPosition bool // the day and the position may be read from the file
}

// Photo is a photograph of a look.
type Photo struct {
	ID      string   `json:"id"`
	Tree    string   `json:"tree"`
	Look    string   `json:"look" doc:"Id of the look; empty: of the tree at large"`
	Kind    string   `json:"kind"`
	Bytes   int      `json:"bytes"`
	Width   int      `json:"width"`
	Height  int      `json:"height"`
	Taken   string   `json:"taken" doc:"When, if the file says so and it might be read; else empty"`
	Lon     *float64 `json:"lon,omitempty"`
	Lat     *float64 `json:"lat,omitempty"`
	By      string   `json:"by"`
	Caption string   `json:"caption"`
	Gone    bool     `json:"gone" doc:"Taken back; the file stays"`
}

func photoOf(p store.Photo) Photo {
	return Photo{p.ID, p.Tree, p.Look, p.Kind, p.Bytes, p.Width, p.Height, p.Taken, p.Lon, p.Lat, p.By, p.Caption, p.Gone}
}

// Photos lists a tree's photographs, without those taken back.
func (b *Book) Photos(ctx context.Context, tree string) ([]Photo, error) {
	photos, err := b.store.PhotosOf(ctx, tree)
	return each(photos, photoOf), err
}

// AddPhoto keeps a photograph with a look. Where the position may be read, and the
// tree has none, it is offered with the photograph and not put on the tree. A file
// that is no photograph gives a [*FileError].
func (b *Book) AddPhoto(ctx context.Context, n NewPhoto, file []byte) (*Photo, error) {
	if err := checkID(n.ID); err != nil {
		return nil, err
	}
	if err := b.hasLook(ctx, n.Tree, n.Look); err != nil {
		return nil, err
	}
	read, err := unpack(file, n.ReadPosition)
	var refused *photo.Refused
	if errors.As(err, &refused) {
		return nil, &FileError{err}
	}
	if err != nil {
		return nil, err
	}
	sum := sha256.Sum256(file)
	p := store.Photo{ID: n.ID, Tree: n.Tree, Look: n.Look, By: n.By, Caption: n.Caption, Digest: hex.EncodeToString(sum[:]),
		Kind: read.Kind, Bytes: len(file), Width: read.Width, Height: read.Height}
	if !read.Taken.IsZero() {
		p.Taken = read.Taken.Format(time.RFC3339)
	}
	if at := read.Position; at != nil {
		p.Lon, p.Lat = &at[0], &at[1]
	}
	if err := b.store.KeepPhotoFile(p.Digest, file, read.Thumb); err != nil {
		return nil, err
	}
	out := photoOf(p)
	return &out, b.store.Write(ctx, func(tx *store.Tx) error { return tx.AddPhoto(ctx, p) })
}

func unpack(file []byte, readPosition bool) (*photo.Photo, error) {
	decoders <- struct{}{}
	defer func() { <-decoders }()
	return photo.Read(file, readPosition)
}

func (b *Book) hasLook(ctx context.Context, tree, look string) error {
	_, log, err := b.store.Log(ctx, tree)
	if err != nil || look == "" {
		return err
	}
	if !slices.ContainsFunc(log, func(e logbook.Entry) bool { return e.ID == look && e.Kind == logbook.KindLook }) {
		return &FieldError{"look", logbook.ErrNoLook.Error()}
	}
	return nil
}

// MarkPhoto takes a photograph back, or puts it back.
func (b *Book) MarkPhoto(ctx context.Context, id string, gone bool) error {
	return b.store.Write(ctx, func(tx *store.Tx) error { return tx.MarkPhoto(ctx, id, gone) })
}

// PhotoFile gives a photograph's file, or its thumbnail, and its media type.
func (b *Book) PhotoFile(ctx context.Context, id string, thumb bool) (file []byte, kind string, err error) {
	p, path, err := b.store.PhotoFile(ctx, id, thumb)
	if err != nil {
		return nil, "", err
	}
	if kind = p.Kind; thumb {
		kind = "image/jpeg"
	}
	file, err = os.ReadFile(path)
	return file, kind, err
}
