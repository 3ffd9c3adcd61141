package book

import (
	"compress/gzip"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"palethicket/core/flora"
	"palethicket/store"
)

// Weight is what a tract weighs for a device that takes it along, in bytes.
type Weight struct {
	Tract      string `json:"tract"`
	Trees      int    `json:"trees"`
	Bytes      int    `json:"bytes" doc:"About how much it takes on the device, without photographs"`
	Photos     int    `json:"photos"`
	PhotoBytes int    `json:"photo_bytes" doc:"The photographs whole; as thumbnails they take about 30 kB each"`
}

// Weights says what each tract weighs.
func (b *Book) Weights(ctx context.Context) ([]Weight, error) {
	weights, err := b.store.Weights(ctx)
	return each(weights, func(w store.Weight) Weight { return Weight(w) }), err
}

// Along is a part of a book that a device takes along: a book of its own, packed by gzip.
// Whoever has it closes it.
type Along struct {
	*os.File
	ID   string // of just these bytes
	Size int64  // bytes, unpacked
}

// parts are those that were made lately: who lost the connection goes on with the same one,
// and a crew that sets out together shares it.
type parts struct {
	making chan struct{} // one at a time
	of     []*part
}

type part struct {
	id, dir, asked string
	size           int64
	made           time.Time
}

// A part is kept for so long, and no more than so many are.
const (
	partKept  = 15 * time.Minute
	partsMost = 4
)

// packing is the level of gzip by which a part goes over the line: about as quick as the
// first, and a tenth smaller.
const packing = 3

// Along makes a book of some tracts, with all there is of them: trees and how they
// stand, visits, boundaries, terrain, lists, and photographs as thumbnails, or whole
// where full says so. With the id of one that was begun before it gives that one, if it is
// still there. A tract that the book does not have gives a [*FieldError].
func (b *Book) Along(ctx context.Context, tracts []string, full bool, begun string) (*Along, error) {
	if err := b.haveTracts(ctx, tracts); err != nil {
		return nil, err
	}
	select {
	case b.parts.making <- struct{}{}:
		defer func() { <-b.parts.making }()
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	b.parts.drop(b.now().Add(-partKept), partsMost)
	seq, last, err := b.store.Last(ctx)
	if err != nil {
		return nil, err
	}
	photos, err := b.store.PhotosHere(ctx) // a photograph's file may come after its entry
	if err != nil {
		return nil, err
	}
	asked := fmt.Sprintf("%q %t", tracts, full)
	at := fmt.Sprintf("%s %d %s %d", asked, seq, last, photos)
	for _, p := range b.parts.of {
		if p.asked != at && (p.id != begun || !strings.HasPrefix(p.asked, asked)) {
			continue
		}
		if file, err := os.Open(p.file()); err == nil { // the system may have cleared it up
			return &Along{file, p.id, p.size}, nil
		}
	}
	p, err := b.makePart(ctx, tracts, full)
	if err != nil {
		return nil, err
	}
	p.asked = at
	b.parts.drop(time.Time{}, partsMost-1)
	b.parts.of = append(b.parts.of, p)
	file, err := os.Open(p.file())
	return &Along{file, p.id, p.size}, err
}

func (b *Book) haveTracts(ctx context.Context, tracts []string) error {
	there, err := b.store.TractNames(ctx)
	if err != nil {
		return err
	}
	for _, t := range tracts {
		if !slices.Contains(there, t) {
			return &FieldError{"tract", fmt.Sprintf("there is no tract %q here", t)}
		}
	}
	if len(tracts) == 0 {
		return &FieldError{"tract", "choose at least one tract"}
	}
	return nil
}

// makePart writes a part to the system's folder for files that do not stay.
func (b *Book) makePart(ctx context.Context, tracts []string, full bool) (p *part, err error) {
	with, err := b.packedFlora()
	if err != nil {
		return nil, err
	}
	p = &part{id: newID(), made: b.now()}
	if p.dir, err = os.MkdirTemp("", "palethicket-"); err != nil {
		return nil, err
	}
	plain := filepath.Join(p.dir, "along.db")
	if err = b.store.Part(ctx, plain, tracts, full, with); err == nil {
		p.size, err = pack(plain, p.file())
	}
	if err = errors.Join(err, os.RemoveAll(plain)); err != nil {
		return nil, errors.Join(err, p.remove())
	}
	return p, nil
}

func (p *part) file() string  { return filepath.Join(p.dir, "along.db.gz") }
func (p *part) remove() error { return os.RemoveAll(p.dir) }

// pack packs a file by gzip, and gives how many bytes it had.
func pack(from, to string) (size int64, err error) {
	in, err := os.Open(from)
	if err != nil {
		return 0, err
	}
	defer in.Close()
	out, err := os.Create(to)
	if err != nil {
		return 0, err
	}
	defer func() { err = errors.Join(err, out.Close()) }()
	z, err := gzip.NewWriterLevel(out, packing)
	if err != nil {
		return 0, err
	}
	size, err = io.Copy(z, in)
	return size, errors.Join(err, z.Close())
}

// drop removes the parts made before a time, and of the others the oldest but so many.
func (p *parts) drop(before time.Time, most int) {
	for len(p.of) > 0 && (len(p.of) > most || p.of[0].made.Before(before)) {
		_ = p.of[0].remove() // it lies where the system clears up
		p.of = p.of[1:]
	}
}

// floraFile is the name that a flora goes along under.
const floraFile = "flora.frozen"

// packedFlora gives what the book is read with beside the flora in the program, as a
// file; none where that is all.
func (b *Book) packedFlora() (map[string][]byte, error) {
	if !b.own {
		return nil, nil
	}
	text, err := b.base.Freeze()
	return map[string][]byte{floraFile: text}, err
}

// floraAlong gives the flora that came along with the book; nil where none came, or one
// that this program cannot read, as from another: then home's word on floras tells it.
func (b *Book) floraAlong(ctx context.Context) (*flora.Flora, error) {
	text, err := b.store.File(ctx, floraFile)
	if errors.Is(err, store.ErrNoPhoto) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	f, err := flora.Thaw(text)
	if err != nil {
		return nil, nil
	}
	return f, nil
}

// FloraDigest says what the book is read with, in the trees of its home region: another
// where names would be weighed otherwise.
func (b *Book) FloraDigest() (string, error) {
	sh := b.shelf.Load()
	return sh.basis.of(flora.Among{Region: sh.flora.HomeRegion()})
}
