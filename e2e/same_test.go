package e2e

import (
	"bufio"
	"compress/gzip"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
)

// TestTheSameAnswers asks the devices' program, run by Node, for the demo's trees, lists, map and
// stands. The answers must equal the server's, byte for byte. It also prints. make test asks for
// one tree of four and prints what is quick to print.
func TestTheSameAnswers(t *testing.T) {
	t.Parallel()
	built(t)
	a := sharedApp(t)
	trees := decoded[book.TreeList](t, a.answer("/api/trees?limit=500")).Trees
	require.Len(t, trees, 400)
	paths := []string{
		"/api/trees?limit=500",
		"/api/worklist?limit=500",
		"/api/map",
		"/api/map/trees",
		"/api/stands",
		"/api/visits",
		"/api/flora",
		"/api/vocabulary",
		"/api/composition?tract=Lantern+Creek+watershed+forest",
	}
	step := 1
	if testing.Short() {
		step = 4
	}
	for i := 0; i < len(trees); i += step {
		paths = append(paths, "/api/trees/"+trees[i].ID)
	}
	for _, l := range trees[:20] {
		paths = append(paths, "/api/trees/"+l.ID+"/story")
	}
	d := newProgram(t, a)
	for _, path := range paths {
		want := a.answer(path)
		if sum := sha256.Sum256([]byte(want)); d.ask(path, "digest") != hex.EncodeToString(sum[:]) {
			t.Fatalf("%s: %s", path, firstDifference(want, d.ask(path, "text")))
		}
	}
	files := []string{"/api/paper/gauge.pdf", "/api/paper/tags.pdf?tag=A1&base=https://book.example"}
	if !testing.Short() {
		files = append(files, "/api/key.pdf?stand=North+cove&tract=Lantern+Creek+watershed+forest", "/api/paper/tally.pdf")
	}
	for _, file := range files {
		require.True(t, strings.HasPrefix(d.ask(file, "text"), "%PDF-"), file)
	}
}

// TestTheSameAnswersInTheBrowser asks the program where it is used.
func TestTheSameAnswersInTheBrowser(t *testing.T) {
	t.Parallel()
	a, p := openDevice(t, deskWidth, deskHeight)
	for _, l := range decoded[book.TreeList](t, a.answer("/api/trees?limit=20")).Trees {
		path := "/api/trees/" + l.ID
		if want, got := a.answer(path), p.asked(path); want != got {
			t.Fatalf("%s: %s", path, firstDifference(want, got))
		}
	}
}

// program is the devices' program, run by Node, holding the demo's tract.
type program struct {
	t   *testing.T
	in  io.Writer
	out *bufio.Reader
}

// newProgram starts it with what a device would download.
func newProgram(t *testing.T, a *app) *program {
	t.Helper()
	folder := t.TempDir()
	res, err := http.Get(a.url("/api/along?tract=Lantern+Creek+watershed+forest"))
	require.NoError(t, err)
	defer res.Body.Close()
	require.Equal(t, 200, res.StatusCode)
	z, err := gzip.NewReader(res.Body)
	require.NoError(t, err)
	part, err := io.ReadAll(z)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(folder, "part.db"), part, 0o600))
	cmd := exec.Command("node", "--liftoff-only", "field.mjs", "../ui/dist", folder)
	cmd.Stderr = os.Stderr
	in, err := cmd.StdinPipe()
	require.NoError(t, err)
	out, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	t.Cleanup(func() { in.Close(); cmd.Process.Kill(); cmd.Wait() })
	return &program{t, in, bufio.NewReader(out)}
}

// ask asks it for a path's answer, or the answer's digest.
func (p *program) ask(path, form string) (text string) {
	p.t.Helper()
	_, err := fmt.Fprintln(p.in, form, path)
	require.NoError(p.t, err)
	line, err := p.out.ReadString('\n')
	require.NoError(p.t, err, "the program ended")
	require.NoError(p.t, json.Unmarshal([]byte(strings.TrimSpace(line)), &text), line)
	return text
}

// firstDifference shows where two texts part.
func firstDifference(a, b string) string {
	n := 0
	for n < min(len(a), len(b)) && a[n] == b[n] {
		n++
	}
	from := max(0, n-80)
	return fmt.Sprintf("at byte %d of %d and %d\n%s\n%s", n, len(a), len(b), a[from:min(len(a), n+80)], b[from:min(len(b), n+80)])
}
