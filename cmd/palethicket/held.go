package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"time"

	"palethicket/away"
	"palethicket/book"
	"palethicket/core/tree/logbook"
)

// heldCmd takes in what a device saved to a file, as when it is never to meet home again.
type heldCmd struct {
	bookFlags
	In string `arg:"" help:"What the device saved: not-home-yet.json, or its whole book; - for standard input." type:"existingfile"`
}

// heldMost is how large it may be, in bytes.
const heldMost = 1 << 30

func (c *heldCmd) Run(ctx context.Context) error {
	text, err := readFile(c.In, heldMost)
	if err != nil {
		return err
	}
	held, err := c.held(ctx, text)
	if err != nil {
		return fmt.Errorf("%s is not what a device saved of its book: %w", c.In, err)
	}
	return c.with(ctx, func(b *book.Book) error {
		if held.Book != b.ID() {
			return fmt.Errorf("%s belongs to another book (%s) than %s (%s)", c.In, held.Book, c.Data, b.ID())
		}
		return take(ctx, b, held)
	})
}

// held reads what a device saved. Of a whole book, as of a device whose program does not start, it
// reads a copy: nothing in the file changes.
func (c *heldCmd) held(ctx context.Context, text []byte) (held *away.Held, err error) {
	if !bytes.HasPrefix(text, []byte("SQLite format 3")) {
		held = &away.Held{}
		if err = json.Unmarshal(text, held); err == nil && held.Book == "" {
			err = errors.New("it does not say which book it is of")
		}
		return held, err
	}
	dir, err := os.MkdirTemp("", "palethicket-")
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
	path := filepath.Join(dir, "device.db")
	err = os.WriteFile(path, text, 0o600)
	if wal, errWAL := os.ReadFile(c.In + "-wal"); errWAL == nil { // what was entered last, where it was saved beside
		err = errors.Join(err, os.WriteFile(path+"-wal", wal, 0o600))
	}
	if err != nil {
		return nil, err
	}
	return heldInBook(ctx, path)
}

func heldInBook(ctx context.Context, path string) (held *away.Held, err error) {
	f, err := shipped()
	if err != nil {
		return nil, err
	}
	b, err := book.Open(ctx, path, book.Options{Flora: f, Away: true})
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, b.Close()) }()
	d, err := away.Open(ctx, b, "", nil, time.Now)
	if err != nil {
		return nil, err
	}
	return d.Held(ctx)
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
