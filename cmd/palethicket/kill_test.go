package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/store"
)

// TestServedElsewhere is the server that TestKilledServerLosesNothing kills: the
// test binary runs itself.
func TestServedElsewhere(t *testing.T) {
	t.Parallel()
	if os.Getenv("PT_KILL_BOOK") == "" {
		t.Skip("run by TestKilledServerLosesNothing")
	}
	require.NoError(
		t,
		serve(t.Context(), bookFlags{Data: os.Getenv("PT_KILL_BOOK")}, listenFlags{Listen: os.Getenv("PT_KILL_LISTEN")}, nothing),
	)
}

// served starts a server in a process of its own.
func served(t *testing.T, data, addr string) *exec.Cmd {
	cmd := exec.Command(os.Args[0], "-test.run=^TestServedElsewhere$")
	cmd.Env = append(os.Environ(), "PT_KILL_BOOK="+data, "PT_KILL_LISTEN="+addr)
	require.NoError(t, cmd.Start())
	require.Eventually(t, func() bool {
		res, err := http.Get("http://" + addr + "/api/trees")
		if err != nil {
			return false
		}
		return res.Body.Close() == nil && res.StatusCode == http.StatusOK
	}, 30*time.Second, 20*time.Millisecond)
	return cmd
}

// scoreUntilItDies sends scores to a tree, one after another, and gives the ids
// of those that were acknowledged.
func scoreUntilItDies(addr, tree, look string) (acknowledged []string) {
	for {
		e := logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindScore, Look: look,
			Score: &record.Score{Character: "bud.coat", States: []string{"bare"}}}
		body, err := json.Marshal(e)
		if err != nil {
			return acknowledged
		}
		res, err := http.Post(fmt.Sprintf("http://%s/api/trees/%s/entries", addr, tree), "application/json", bytes.NewReader(body))
		if err != nil {
			return acknowledged
		}
		res.Body.Close()
		if res.StatusCode != http.StatusOK {
			return acknowledged
		}
		acknowledged = append(acknowledged, e.ID)
	}
}

// oneLook starts a tree with one look in it, and closes the book for others.
func oneLook(t *testing.T, b *book.Book, tag string) (tree, look string) {
	t.Helper()
	tree = ulid.Make().String()
	_, err := b.AddTree(t.Context(), book.NewTree{ID: tree, Tag: tag, Tract: "Lantern Creek watershed forest", Stand: "Creek bottom"})
	require.NoError(t, err)
	v, err := b.AddEntry(t.Context(), tree, &book.Entry{ID: ulid.Make().String(), Kind: "look", From: "tree"})
	require.NoError(t, err)
	return tree, v.Looks[0].ID
}

// TestKilledServerLosesNothing kills the server (SIGKILL) three times in the
// middle of a stream of writes from four people, and counts.
func TestKilledServerLosesNothing(t *testing.T) {
	t.Parallel()
	path, addr := filepath.Join(t.TempDir(), "book.db"), freePort(t)
	tree, look := oneLook(t, booktest.At(t, path), "LC-1")

	var acknowledged []string
	for round := range 3 {
		cmd := served(t, path, addr)
		var people sync.WaitGroup
		var mu sync.Mutex
		for range 4 {
			people.Go(func() {
				ids := scoreUntilItDies(addr, tree, look)
				mu.Lock()
				defer mu.Unlock()
				acknowledged = append(acknowledged, ids...)
			})
		}
		time.Sleep(time.Duration(400+150*round) * time.Millisecond)
		require.NoError(t, cmd.Process.Kill())
		_ = cmd.Wait() // it was killed, and says so
		people.Wait()
	}
	require.NotEmpty(t, acknowledged)
	require.NoError(t, store.Check(t.Context(), path))

	s, err := store.Open(t.Context(), path)
	require.NoError(t, err)
	defer s.Close()
	_, log, err := s.Log(t.Context(), tree)
	require.NoError(t, err)
	kept := map[string]bool{}
	for _, e := range log {
		kept[e.ID] = true
	}
	for _, id := range acknowledged {
		require.True(t, kept[id], "entry %s was acknowledged and is lost", id)
	}
	t.Logf("%d scores acknowledged, %d in the book", len(acknowledged), len(log)-2)
}
