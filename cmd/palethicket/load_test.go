package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book/booktest"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
)

// load is how many people score at once, for how long, and how long each looks
// between two scores. PT_LOAD=1 asks for the load of docs/performance.md.
func load() (people int, length, pause time.Duration) {
	if os.Getenv("PT_LOAD") != "" {
		return 50, 30 * time.Second, time.Second
	}
	return 20, 2 * time.Second, 200 * time.Millisecond
}

// TestManyPeopleScoring has many people score, each a tree of their own, over HTTP,
// and counts: nothing that was acknowledged is lost. Times are logged and decide
// nothing.
func TestManyPeopleScoring(t *testing.T) {
	t.Parallel()
	people, length, pause := load()
	path, addr := filepath.Join(t.TempDir(), "book.db"), freePort(t)
	b := booktest.At(t, path)
	trees, looks := make([]string, people), make([]string, people)
	for i := range people {
		trees[i], looks[i] = oneLook(t, b, fmt.Sprintf("LC-%d", i))
	}
	require.NoError(t, b.Close())
	cmd := served(t, path, addr)
	var mu sync.Mutex
	var took []time.Duration
	kept := make([][]string, people)
	var wg sync.WaitGroup
	for i := range people {
		wg.Go(func() {
			until := time.Now().Add(length)
			for n := 0; time.Now().Before(until); n++ {
				time.Sleep(time.Duration(float64(pause) * (0.5 + rand.Float64())))
				began := time.Now()
				id, ok := scoreOne(addr, trees[i], looks[i], n)
				if ok {
					kept[i] = append(kept[i], id)
					mu.Lock()
					took = append(took, time.Since(began))
					mu.Unlock()
				}
			}
		})
	}
	wg.Wait()
	require.NoError(t, cmd.Process.Kill())
	_ = cmd.Wait() // it was killed, and says so
	b = booktest.At(t, path)
	for i := range people {
		story, err := b.Story(t.Context(), trees[i])
		require.NoError(t, err)
		require.Len(t, story.Steps, 2+len(kept[i]), "tree %d", i)
		require.NotEmpty(t, kept[i])
	}
	slices.Sort(took)
	t.Logf("%d people, %d scores in %s: median %s, p90 %s, p99 %s, longest %s", people, len(took), length,
		took[len(took)/2], took[len(took)*9/10], took[len(took)*99/100], took[len(took)-1])
}

// answersOf are scores that people make one after another.
var answersOf = []record.Score{
	{Character: "bark.texture", States: []string{"mesh-ridges"}}, {Character: "bark.color", States: []string{"mid-grey"}},
	{Character: "twig.arrangement", States: []string{"opposite"}}, {Character: "bud.coat", States: []string{"bare"}},
	{Character: "bud.shape", States: []string{"cone"}}, {Character: "twig.color", States: []string{"brown"}},
	{Character: "bark.give", States: []string{"hard"}}, {Character: "scar.shape", States: []string{"crescent"}},
}

func scoreOne(addr, tree, look string, n int) (id string, ok bool) {
	score := answersOf[n%len(answersOf)]
	e := logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindScore, Look: look, Score: &score}
	body, err := json.Marshal(e)
	if err != nil {
		return "", false
	}
	res, err := http.Post(fmt.Sprintf("http://%s/api/trees/%s/entries", addr, tree), "application/json", bytes.NewReader(body))
	if err != nil {
		return "", false
	}
	_, err = io.Copy(io.Discard, res.Body)
	return e.ID, res.Body.Close() == nil && err == nil && res.StatusCode == http.StatusOK
}
