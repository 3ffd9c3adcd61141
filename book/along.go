package book

import (
	"compress/gzip"
	"context"
	"errors"
	"fmt"
	"io"

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
	file, err := b.store.PartFile(ctx, tracts, full)
	if err != nil {
		return nil, err
	}
	info, err := file.Stat()
	if err != nil {
		return nil, errors.Join(err, file.Close())
	}
	return &Along{file, info.Size()}, nil
}

// Pack writes it, packed by gzip.
func (a *Along) Pack(w io.Writer) error {
	z, err := gzip.NewWriterLevel(w, gzip.BestSpeed)
	if err != nil {
		return err
	}
	_, err = io.Copy(z, a.file)
	return errors.Join(err, z.Close())
}

// Close leaves nothing of it on the disk.
func (a *Along) Close() error { return a.file.Close() }
