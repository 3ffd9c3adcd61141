package book

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"slices"
	"time"

	"github.com/oklog/ulid/v2"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/photo"
	"palethicket/core/tree/record"
	"palethicket/store"
)

// decoders bounds how many photographs are unpacked at once, as a large one
// takes hundreds of megabytes.
var decoders = make(chan struct{}, 1)

// NewPhoto is a photograph as it comes.
type NewPhoto struct {
	ID        string
	Tree      string
	Look      string // empty: of the tree at large
	By        string
	Caption   string
	ReadPlace bool // the day and the place may be read from the file
}

// AddPhoto keeps a photograph with a look. Where the place may be read, and the
// tree has none, it is offered with the photograph and not put on the tree.
func (b *Book) AddPhoto(ctx context.Context, n NewPhoto, file []byte) (*store.Photo, error) {
	if _, err := ulid.ParseStrict(n.ID); err != nil {
		return nil, &record.FieldError{Field: "id", Message: "want a ULID of 26 characters"}
	}
	if err := b.hasLook(ctx, n.Tree, n.Look); err != nil {
		return nil, err
	}
	decoders <- struct{}{}
	read, err := photo.Read(file, n.ReadPlace)
	<-decoders
	if err != nil {
		return nil, err
	}
	sum := sha256.Sum256(file)
	p := store.Photo{ID: n.ID, Tree: n.Tree, Look: n.Look, By: n.By, Caption: n.Caption, Digest: hex.EncodeToString(sum[:]),
		Kind: read.Kind, Bytes: len(file), Width: read.Width, Height: read.Height}
	if !read.Taken.IsZero() {
		p.Taken = read.Taken.Format(time.RFC3339)
	}
	if read.Position != nil {
		p.Lon, p.Lat = &read.Position.Lon, &read.Position.Lat
	}
	return &p, b.Store.AddPhoto(ctx, p, file, read.Thumb)
}

func (b *Book) hasLook(ctx context.Context, tree, look string) error {
	_, log, err := b.tree(ctx, tree)
	if err != nil || look == "" {
		return err
	}
	if !slices.ContainsFunc(log, func(e logbook.Entry) bool { return e.ID == look && e.Kind == logbook.KindLook }) {
		return &record.FieldError{Field: "look", Message: logbook.ErrNoLook.Error()}
	}
	return nil
}
