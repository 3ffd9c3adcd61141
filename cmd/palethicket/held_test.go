package main

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
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
	whole, _, err := b.PhotoFile(t.Context(), photo, false)
	require.NoError(t, err)
	require.Equal(t, file.Bytes(), whole)
	require.NoError(t, b.Close())

	other := filepath.Join(dir, "other.db")
	require.NoError(t, booktest.At(t, other).Close())
	require.ErrorContains(t, (&heldCmd{bookFlags{Data: other}, in}).Run(t.Context()), "belongs to another book")
	require.NoError(t, os.WriteFile(in, []byte("{}"), 0o600))
	require.ErrorContains(t, (&heldCmd{bookFlags{Data: data}, in}).Run(t.Context()), "not what a device saved")
}
