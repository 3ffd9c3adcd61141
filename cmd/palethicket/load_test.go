package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"sync"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/demo"
)

// crowd is how many people score at once, for how long, and how long each looks
// between two scores.
type crowd struct {
	people        int
	length, pause time.Duration
}

// crowded is a small crowd by day, and else one of 200 people or as many as PT_LOAD says, a score a second
// each, as in docs/performance.md.
func crowded(byDay int) crowd {
	if testing.Short() {
		return crowd{byDay, 2 * time.Second, 200 * time.Millisecond}
	}
	people := 200
	if n, err := strconv.Atoi(os.Getenv("PT_LOAD")); err == nil {
		people = n
	}
	return crowd{people, 30 * time.Second, time.Second}
}

// TestManyPeopleScoring has many people score, each a tree of their own, over HTTP,
// and counts: nothing that was acknowledged is lost. Times are logged and decide
// nothing.
func TestManyPeopleScoring(t *testing.T) {
	t.Parallel()
	crowded(20).scores(t, filepath.Join(t.TempDir(), "book.db"), func(context.Context, string) {})
}

// TestManyPeopleBesideFiles is TestManyPeopleScoring while two others export the demo forest over and over, and one
// puts in an inventory.
func TestManyPeopleBesideFiles(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	b := booktest.At(t, path)
	require.NoError(t, demo.Fill(t.Context(), b))
	require.NoError(t, b.Close())
	lines := 3000
	if testing.Short() {
		lines = 300
	}
	crowded(10).scores(t, path, func(ctx context.Context, addr string) {
		var wg sync.WaitGroup
		for _, format := range []string{"csv", "json"} {
			wg.Go(func() {
				for ctx.Err() == nil {
					assert.True(t, sentTo("GET", "http://"+addr+"/api/export/"+format, "", nil))
				}
			})
		}
		wg.Go(func() { putIn(t, addr, inventory(lines)) })
		wg.Wait()
	})
}

// scores has a crowd score in the book at path, beside other work.
func (c crowd) scores(t *testing.T, path string, beside func(ctx context.Context, addr string)) {
	t.Helper()
	b, addr := booktest.At(t, path), freePort(t)
	trees, looks, before := make([]string, c.people), make([]string, c.people), make([]int, c.people)
	for i := range trees {
		trees[i], looks[i] = oneLook(t, b, fmt.Sprintf("S-%d", i))
		story, err := b.Story(t.Context(), trees[i])
		require.NoError(t, err)
		before[i] = len(story.Steps)
	}
	require.NoError(t, b.Close())
	cmd := served(t, path, addr)
	ctx, stop := context.WithTimeout(t.Context(), c.length)
	defer stop()
	var mu sync.Mutex
	var took []time.Duration
	kept := make([]int, c.people)
	var wg sync.WaitGroup
	wg.Go(func() { beside(ctx, addr) })
	for i := range trees {
		wg.Go(func() {
			for n := 0; ctx.Err() == nil; n++ {
				time.Sleep(time.Duration(float64(c.pause) * (0.5 + rand.Float64())))
				began := time.Now()
				if scoreOne(addr, trees[i], looks[i], n) {
					kept[i]++
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
	for i := range trees {
		story, err := b.Story(t.Context(), trees[i])
		require.NoError(t, err)
		require.Len(t, story.Steps, before[i]+kept[i], "tree %d", i)
		require.NotZero(t, kept[i])
	}
	slices.Sort(took)
	t.Logf("%d people, %d scores in %s: median %s, p90 %s, p99 %s, longest %s", c.people, len(took), c.length,
		took[len(took)/2], took[len(took)*9/10], took[len(took)*99/100], took[len(took)-1])
}

// inventory is a table of trees.
func inventory(lines int) []byte {
	var s bytes.Buffer
	s.WriteString("tag,tract,stand,dbh_cm,given,rank,date,observer\n")
	species := []string{"Acer rubrum", "Quercus alba", "Carya ovata", "Tilia americana", "Prunus serotina"}
	for i := range lines {
		fmt.Fprintf(&s, "I-%d,Lantern Creek watershed forest,Bluff ridge,%d.5,%s,species,2026-11-20,Wren Halloran\n",
			i, 10+i%50, species[i%len(species)])
	}
	return s.Bytes()
}

// putIn puts a file into the book, and waits until all of it is in.
func putIn(t *testing.T, addr string, file []byte) {
	began, imports := time.Now(), "http://"+addr+"/api/imports"
	preview := answered[book.Preview](t, "POST", imports+"?name=inventory.csv", "application/octet-stream", file)
	body, err := json.Marshal(map[string]any{"mapping": preview.Mapping, "by": "Wren Halloran"})
	require.NoError(t, err)
	going := answered[book.Progress](t, "POST", imports+"/"+preview.ID, "application/json", body)
	for !going.Ended {
		time.Sleep(100 * time.Millisecond)
		going = answered[book.Progress](t, "GET", imports+"/"+preview.ID, "", nil)
	}
	assert.Empty(t, going.Wrong)
	assert.Equal(t, bytes.Count(file, []byte("\n"))-1, going.Trees)
	t.Logf("%d lines put in after %s", going.Trees, time.Since(began))
}

// answered is what the server answers.
func answered[T any](t *testing.T, method, url, kind string, body []byte) (v T) {
	status, text, err := ask(method, url, kind, body)
	require.NoError(t, err)
	require.Equal(t, http.StatusOK, status, string(text))
	require.NoError(t, json.Unmarshal(text, &v))
	return v
}

// answersOf are scores that people make one after another.
var answersOf = []record.Score{
	{Character: "bark.texture", States: []string{"mesh-ridges"}}, {Character: "bark.color", States: []string{"mid-grey"}},
	{Character: "twig.arrangement", States: []string{"opposite"}}, {Character: "bud.coat", States: []string{"bare"}},
	{Character: "bud.shape", States: []string{"cone"}}, {Character: "twig.color", States: []string{"brown"}},
	{Character: "bark.give", States: []string{"hard"}}, {Character: "scar.shape", States: []string{"crescent"}},
}

func scoreOne(addr, tree, look string, n int) (ok bool) {
	score := answersOf[n%len(answersOf)]
	body, err := json.Marshal(logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindScore, Look: look, Score: &score})
	return err == nil && sentTo("POST", fmt.Sprintf("http://%s/api/trees/%s/entries", addr, tree), "application/json", body)
}
