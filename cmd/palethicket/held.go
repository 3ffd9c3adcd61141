package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"palethicket/away"
	"palethicket/book"
	"palethicket/core/tree/logbook"
)

// heldCmd takes in what a device saved to a file, as when it is never to meet home again.
type heldCmd struct {
	bookFlags
	In string `arg:"" help:"What the device saved (not-home-yet.json); - for standard input." type:"existingfile"`
}

// heldMost is how large it may be, in bytes.
const heldMost = 1 << 30

func (c *heldCmd) Run(ctx context.Context) error {
	text, err := readFile(c.In, heldMost)
	if err != nil {
		return err
	}
	var held away.Held
	if err := json.Unmarshal(text, &held); err != nil || held.Book == "" {
		return errors.Join(fmt.Errorf("%s is not what a device saved of its book", c.In), err)
	}
	return c.with(ctx, func(b *book.Book) error {
		if held.Book != b.ID() {
			return fmt.Errorf("%s belongs to another book (%s) than %s (%s)", c.In, held.Book, c.Data, b.ID())
		}
		return take(ctx, b, &held)
	})
}

// take tells the book what a device held, each entry under the name that it has, and says
// what became of it.
func take(ctx context.Context, b *book.Book, held *away.Held) error {
	counts := map[string]int{}
	for batch := range slices.Chunk(held.Entries, book.MeetMost) {
		met, err := b.Meet(ctx, &book.Meeting{Version: held.Version, Entries: batch}, "")
		if err != nil {
			return err
		}
		for _, m := range met {
			if counts[m.Answer]++; m.Answer == book.Refused {
				fmt.Printf("Not taken: %s: %s\n", m.ID, m.Why)
			}
		}
	}
	photos, err := takePhotos(ctx, b, held)
	if err != nil {
		return err
	}
	fmt.Printf("Of %s: %d entries taken, %d were here already, %d not taken; %d photographs.\n",
		held.From, counts[book.Taken], counts[book.Had], counts[book.Refused], photos)
	return nil
}

// takePhotos keeps the files of photographs whose entries the book has.
func takePhotos(ctx context.Context, b *book.Book, held *away.Held) (n int, err error) {
	for _, sent := range held.Entries {
		var e logbook.Entry
		if err := json.Unmarshal(sent.Entry, &e); err != nil || e.Photo == nil {
			continue // what cannot be read was not taken
		}
		file := held.Files[e.Photo.Digest]
		if len(file) == 0 {
			continue
		}
		if _, err := b.PhotoPiece(ctx, e.ID, 0, file); err != nil {
			return n, fmt.Errorf("photograph %s: %w", e.ID, err)
		}
		n++
	}
	return n, nil
}
