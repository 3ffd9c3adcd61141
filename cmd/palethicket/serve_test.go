package main

import (
	"context"
	"fmt"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/demo"
	"palethicket/demo/demotest"
)

func TestMain(m *testing.M) { demotest.Main(m) }

func nothing(context.Context, *book.Book) error { return nil }

// freePort gives an address that nothing listens at.
// waitLong is how long nothing takes that goes on at all, however busy the machine is.
const waitLong = 3 * time.Minute

func freePort(t *testing.T) string {
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer ln.Close()
	return ln.Addr().String()
}

func TestDemoStartsAndStops(t *testing.T) {
	t.Parallel()
	ctx, stop := context.WithCancel(t.Context())
	addr, done := freePort(t), make(chan error, 1)
	go func() {
		done <- serve(ctx, bookFlags{Data: filepath.Join(t.TempDir(), "demo.db")}, listenFlags{Listen: addr}, demo.Fill)
	}()
	require.Eventually(t, func() bool {
		res, err := http.Get("http://" + addr + "/api/trees")
		if err != nil {
			return false
		}
		defer res.Body.Close()
		return res.StatusCode == http.StatusOK
	}, waitLong, 50*time.Millisecond)
	stop()
	require.NoError(t, <-done)
}

func TestServeSaysWhyNot(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer ln.Close()
	for _, c := range []struct{ data, listen, says string }{
		{filepath.Join(dir, "none", "book.db"), freePort(t), "does not exist"},
		{dir, freePort(t), "it is a folder"},
		{filepath.Join(dir, "book.db"), ln.Addr().String(), "is in use by another program"},
		{filepath.Join(dir, "book.db"), "nowhere", "cannot listen at nowhere"},
	} {
		err := serve(t.Context(), bookFlags{Data: c.data}, listenFlags{Listen: c.listen}, nothing)
		require.ErrorContains(t, err, c.says)
		require.NotContains(t, err.Error(), "\n")
	}
}

func TestIdentifyFiles(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	in, out := filepath.Join(dir, "in.json"), filepath.Join(dir, "out.json")
	require.NoError(t, os.WriteFile(in, []byte(`{"records": [{"id": "LC-1", "looks": []}, {"id": "LC-2", "age": "grey"}]}`), 0o600))
	err := (&identifyCmd{In: in, Out: out, Next: 3, Draws: 1000}).Run(t.Context())
	require.EqualError(t, err, "1 of the records could not be read; their results say why")
	text, err := os.ReadFile(out)
	require.NoError(t, err)
	require.Contains(t, string(text), `"id":"LC-1"`)
	require.Contains(t, string(text), `"id":"LC-2","error":`)
	require.ErrorContains(t, (&identifyCmd{In: filepath.Join(dir, "none"), Out: out}).Run(t.Context()), "none: no such file")
}

func TestCalibrate(t *testing.T) {
	dir := t.TempDir()
	said, err := printed(t, func() error {
		return (&calibrateCmd{Region: "british-isles", Specimens: 600, Seed: 1, Out: dir}).Run(t.Context())
	})
	require.NoError(t, err)
	require.Equal(t, fmt.Sprintf("Written: %s and %s\n", filepath.Join(dir, "calibration.md"), filepath.Join(dir, "calibration.svg")), said)
	text, err := os.ReadFile(filepath.Join(dir, "calibration.md"))
	require.NoError(t, err)
	require.Contains(t, string(text), "600 drawn specimens")
	plot, err := os.ReadFile(filepath.Join(dir, "calibration.svg"))
	require.NoError(t, err)
	require.Contains(t, string(plot), "came true")

	stopped, stop := context.WithCancel(t.Context())
	stop()
	err = (&calibrateCmd{Region: "british-isles", Specimens: 1_000_000, Seed: 1, Out: filepath.Join(dir, "none")}).Run(stopped)
	require.ErrorContains(t, err, "nothing written")
}

// TestNobodyHoldsAConnection: every wait of the server ends.
func TestNobodyHoldsAConnection(t *testing.T) {
	t.Parallel()
	s := newServer(nil)
	for _, wait := range []time.Duration{s.ReadHeaderTimeout, s.ReadTimeout, s.WriteTimeout, s.IdleTimeout} {
		require.Positive(t, wait)
		require.LessOrEqual(t, wait, 15*time.Minute)
	}
	require.Positive(t, s.MaxHeaderBytes)
}
