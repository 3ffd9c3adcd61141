package book

import (
	"compress/gzip"
	"context"
	"errors"
	"fmt"
	"io"

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

// Along is a part of a book that a device takes along: a book of its own.
type Along struct {
	file *store.PartFile
	Size int64 // bytes, unpacked
}

// Along makes a book of some tracts, with all there is of them: trees and how they
// stand, visits, boundaries, terrain, lists, and photographs as thumbnails, or whole
// where full says so. The caller closes it. A tract that the book does not have gives a
// [*FieldError].
func (b *Book) Along(ctx context.Context, tracts []string, full bool) (*Along, error) {
	there, err := b.store.TractNames(ctx)
	if err != nil {
		return nil, err
	}
	known := map[string]bool{}
	for _, t := range there {
		known[t] = true
	}
	for _, t := range tracts {
		if !known[t] {
			return nil, &FieldError{"tract", fmt.Sprintf("there is no tract %q here", t)}
		}
	}
	if len(tracts) == 0 {
		return nil, &FieldError{"tract", "choose at least one tract"}
	}
	with, err := b.packedFlora()
	if err != nil {
		return nil, err
	}
	file, err := b.store.PartFile(ctx, tracts, full, with)
	if err != nil {
		return nil, err
	}
	info, err := file.Stat()
	if err != nil {
		return nil, errors.Join(err, file.Close())
	}
	return &Along{file, info.Size()}, nil
}

// packing is the level of gzip by which a part goes over the line: about as quick as the
// first, and a tenth smaller.
const packing = 3

// Pack writes it, packed by gzip.
func (a *Along) Pack(w io.Writer) error {
	z, err := gzip.NewWriterLevel(w, packing)
	if err != nil {
		return err
	}
	_, err = io.Copy(z, a.file)
	return errors.Join(err, z.Close())
}

// Close leaves nothing of it on the disk.
func (a *Along) Close() error { return a.file.Close() }

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
