package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
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
	photo := func(body []byte) func() (string, string, string, []byte) {
		return func() (string, string, string, []byte) {
			return "POST", "/api/trees/" + tree + "/photos?photo=" + ulid.Make().String() + "&look=" + look, "application/octet-stream", body
		}
	}
	get := func(path string) func() (string, string, string, []byte) {
		return func() (string, string, string, []byte) { return "GET", path, "", nil }
	}
	const json = "application/json"
	attacks := []func() (method, path, kind string, body []byte){
		func() (string, string, string, []byte) { return "POST", "/api/session", json, []byte(keys + "}") },
		func() (string, string, string, []byte) {
			return "POST", "/api/imports?name=a.csv", "application/octet-stream", file
		},
		func() (string, string, string, []byte) { return "POST", "/api/practice/walks?by=Wren", json, walk },
		photo(picture), photo(huge),
		get("/api/key?region=eastern-north-america"), get("/api/paper/cards.pdf"), get("/api/paper/tally.pdf"),
	}
	got := map[int]int{}
	var mu sync.Mutex
	var wg sync.WaitGroup
	for _, attack := range attacks {
		for range 24 {
			wg.Go(func() {
				method, path, kind, body := attack()
				status := statusOf(t, method, "http://"+addr+path, kind, body)
				mu.Lock()
				got[status]++
				mu.Unlock()
			})
		}
	}
	wg.Wait()
	t.Log("answers by status: ", got)
	assert.Zero(t, got[http.StatusInternalServerError])
	assert.Zero(t, got[0], "connections that were cut")
	status, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", cmd.Process.Pid))
	require.NoError(t, err, "Linux says how much memory a program had")
	most := regexp.MustCompile(`VmHWM:\s+(\d+) kB`).FindSubmatch(status)
	kB, err := strconv.Atoi(string(most[1]))
	require.NoError(t, err)
	t.Logf("%d MB at most", kB>>10)
	require.Less(t, kB>>10, 600)
}

func statusOf(t *testing.T, method, url, kind string, body []byte) int {
	req, err := http.NewRequest(method, url, bytes.NewReader(body))
	require.NoError(t, err)
	if kind != "" {
		req.Header.Set("Content-Type", kind)
	}
	res, err := people.Do(req)
	if err != nil {
		t.Log(strings.ReplaceAll(err.Error(), url, method))
		return 0
	}
	defer res.Body.Close()
	_, err = io.Copy(io.Discard, res.Body)
	assert.NoError(t, err)
	return res.StatusCode
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
