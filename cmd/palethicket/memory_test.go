package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"math/rand/v2"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"sync"
	"testing"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"palethicket/book/booktest"
)

// TestMemory sends a server what takes much memory, all of it many times at once: large files, large
// photographs, bodies of thousands of keys, walks, keys and prints. Each is answered or refused, and the
// server's memory stays under 600 MB.
func TestMemory(t *testing.T) {
	if testing.Short() {
		t.Skip("it fills both processors for minutes")
	}
	path, addr := filepath.Join(t.TempDir(), "book.db"), freePort(t)
	b := booktest.At(t, path)
	tree, look := oneLook(t, b, "LC-1")
	require.NoError(t, b.Close())
	cmd := served(t, path, addr)
	defer func() { require.NoError(t, cmd.Process.Kill()); _ = cmd.Wait() }()

	keys := `{"name": "Wren Halloran", "password": "x"`
	for i := range 16_000 {
		keys += fmt.Sprintf(`, "k%d": 1`, i)
	}
	file := append([]byte("tag,tract,stand\n"), bytes.Repeat([]byte("LC-1,Lantern Creek watershed forest,North cove\n"), 500_000)...)
	picture := noise(t, 2400, 2000)
	huge := header(t, 40_000, 40_000)
	walk, err := json.Marshal(map[string]any{"trees": 10, "snow": "none", "odd": false, "region": "eastern-north-america"})
	require.NoError(t, err)
	const (
		asJSON = "application/json"
		asFile = "application/octet-stream"
	)
	photo := func() string { return "/api/trees/" + tree + "/photos?photo=" + ulid.Make().String() + "&look=" + look }
	type attack struct {
		method, path, kind string
		body               []byte
	}
	var attacks []attack
	for range 24 {
		attacks = append(attacks,
			attack{"POST", "/api/session", asJSON, []byte(keys + "}")},
			attack{"POST", "/api/imports?name=a.csv", asFile, file},
			attack{"POST", "/api/practice/walks?by=Wren", asJSON, walk},
			attack{"POST", photo(), asFile, picture},
			attack{"POST", photo(), asFile, huge},
			attack{"GET", "/api/key?region=eastern-north-america", "", nil},
			attack{"GET", "/api/paper/cards.pdf", "", nil},
			attack{"GET", "/api/paper/tally.pdf", "", nil})
	}
	got := map[int]int{}
	var mu sync.Mutex
	var wg sync.WaitGroup
	for _, a := range attacks {
		wg.Go(func() {
			status, _, err := ask(a.method, "http://"+addr+a.path, a.kind, a.body)
			assert.NoError(t, err, a.path)
			mu.Lock()
			defer mu.Unlock()
			got[status]++
		})
	}
	wg.Wait()
	t.Log("answers by status: ", got)
	assert.Zero(t, got[http.StatusInternalServerError])
	status, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", cmd.Process.Pid))
	require.NoError(t, err, "Linux says how much memory a program had")
	most := regexp.MustCompile(`VmHWM:\s+(\d+) kB`).FindSubmatch(status)
	kB, err := strconv.Atoi(string(most[1]))
	require.NoError(t, err)
	t.Logf("%d MB at most", kB>>10)
	require.Less(t, kB>>10, 600)
}

// noise is a photograph that cannot be packed.
func noise(t *testing.T, width, height int) []byte {
	m := image.NewNRGBA(image.Rect(0, 0, width, height))
	for i := range m.Pix {
		m.Pix[i] = byte(rand.Uint32()) | 0x80
	}
	var out bytes.Buffer
	require.NoError(t, (&png.Encoder{CompressionLevel: png.NoCompression}).Encode(&out, m))
	return out.Bytes()
}

// header is a photograph of a size that only its header says.
func header(t *testing.T, width, height int) []byte {
	small := noise(t, 1, 1)
	out := bytes.Clone(small)
	at := bytes.Index(out, []byte("IHDR")) + 4
	for i := range 4 {
		out[at+i], out[at+4+i] = byte(width>>(24-8*i)), byte(height>>(24-8*i))
	}
	return out
}
