package main

import (
	"bytes"
	"compress/gzip"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"image"
	"image/png"
	"io"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/away"
	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/tree/stamp"
)

// TestTakeIn: what a device saved goes into its book, photographs too, twice as once; into
// another book it does not.
func TestTakeIn(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	data := filepath.Join(dir, "book.db")
	b := booktest.At(t, data)
	held := away.Held{Meeting: book.Meeting{Version: book.LogVersion}, Book: b.ID(), From: "Wren's phone"}
	require.NoError(t, b.Close())
	var file bytes.Buffer
	require.NoError(t, png.Encode(&file, image.NewGray(image.Rect(0, 0, 40, 30))))
	sum := sha256.Sum256(file.Bytes())
	digest := hex.EncodeToString(sum[:])
	held.Files = map[string][]byte{digest: file.Bytes()}
	clock := stamp.NewClock("DEV1", time.Now)
	tree, photo := ulid.Make().String(), ulid.Make().String()
	for _, e := range []struct{ id, rest string }{
		{tree, `"kind": "start", "start": {"tag": "LC-1", "tract": "Lantern Creek watershed forest", "stand": "Upper slope",
			"region": "eastern-north-america"}`},
		{photo, fmt.Sprintf(`"kind": "photo", "photo": {"digest": %q, "kind": "image/png", "bytes": %d, "width": 40, "height": 30}`,
			digest, file.Len())},
	} {
		entry := json.RawMessage(fmt.Sprintf(`{"id": %q, "stamp": %q, "by": "Wren Halloran", %s}`, e.id, clock.After(), e.rest))
		held.Entries = append(held.Entries, book.Sent{Tree: tree, Entry: entry})
	}
	in := filepath.Join(dir, "not-home-yet.json")
	text, err := json.Marshal(held)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(in, text, 0o600))
	for range 2 {
		require.NoError(t, (&heldCmd{bookFlags{Data: data}, in}).Run(t.Context()))
	}
	b = booktest.At(t, data)
	_, err = b.View(t.Context(), tree)
	require.NoError(t, err)
	whole, _, err := booktest.ReadPhoto(t, b, photo, false)
	require.NoError(t, err)
	require.Equal(t, file.Bytes(), whole)
	require.NoError(t, b.Close())

	other := filepath.Join(dir, "other.db")
	require.NoError(t, booktest.At(t, other).Close())
	require.ErrorContains(t, (&heldCmd{bookFlags{Data: other}, in}).Run(t.Context()), "belongs to another book")
	require.NoError(t, os.WriteFile(in, []byte("{}"), 0o600))
	require.ErrorContains(t, (&heldCmd{bookFlags{Data: data}, in}).Run(t.Context()), "not what a device saved")
}

// TestTakeInABook: a device's whole book, saved where its program does not start, is taken in
// too, what was entered last included.
func TestTakeInABook(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	data, device := filepath.Join(dir, "book.db"), filepath.Join(dir, "device.db")
	home := booktest.At(t, data)
	_, err := home.AddTree(t.Context(), book.NewTree{ID: ulid.Make().String(), Tag: "LC-1", Tract: "Lantern Creek watershed forest", Stand: "Upper slope", New: true})
	require.NoError(t, err)
	part, err := home.Along(t.Context(), []string{"Lantern Creek watershed forest"}, false, "")
	require.NoError(t, err)
	z, err := gzip.NewReader(part)
	require.NoError(t, err)
	plain, err := io.ReadAll(z)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(device, plain, 0o600))
	opt := booktest.Options(t)
	opt.Away = true
	held, err := book.Open(t.Context(), device, opt)
	require.NoError(t, err)
	_, err = away.Begin(t.Context(), held, away.Taken{Device: "tablet", Tracts: []string{"Lantern Creek watershed forest"}}, time.Now())
	require.NoError(t, err)
	tree, err := held.AddTree(t.Context(), book.NewTree{ID: ulid.Make().String(), Tag: "LC-2", Tract: "Lantern Creek watershed forest", Stand: "Upper slope"})
	require.NoError(t, err)
	saved := filepath.Join(dir, "saved.db") // while the book is open: the last entry stands in its log alone
	for _, end := range []string{"", "-wal"} {
		text, err := os.ReadFile(device + end)
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(saved+end, text, 0o600))
	}
	require.NoError(t, errors.Join(held.Close(), part.Close(), home.Close()))
	require.NoError(t, (&heldCmd{bookFlags{Data: data}, saved}).Run(t.Context()))
	home = booktest.At(t, data)
	_, err = home.View(t.Context(), tree.Tree.ID)
	require.NoError(t, err)
}
