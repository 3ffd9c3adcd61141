package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"sync"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/stamp"
)

// comingHome is how many devices come home with how many entries each. PT_DEVICES asks
// for as many with 4 000 each; docs/performance.md has the evening of 500.
func comingHome() (devices, entries int) {
	if n, err := strconv.Atoi(os.Getenv("PT_DEVICES")); err == nil {
		return n, 4000
	}
	return 3, 250
}

// dayInTheWoods is what a device brings home: trees with a look of twenty scores each.
func dayInTheWoods(device, entries int) (sent []book.Sent) {
	clock := stamp.NewClock(fmt.Sprintf("DEV%d", device), time.Now)
	add := func(tree string, e logbook.Entry) {
		e.Stamp, e.By = clock.After(), fmt.Sprint("Person ", device)
		text, err := json.Marshal(e)
		if err != nil {
			panic(err) // an entry is always written
		}
		sent = append(sent, book.Sent{Tree: tree, Entry: text})
	}
	visit, tract := ulid.Make().String(), fmt.Sprint("Tract ", device%50)
	add(
		"",
		logbook.Entry{
			ID:   ulid.Make().String(),
			Kind: logbook.KindVisit,
			Walk: &logbook.Visit{ID: visit, Tract: tract, Day: "2026-11-17", Snow: "none"},
		},
	)
	for n := 0; len(sent) < entries; n++ {
		tree, look := ulid.Make().String(), ulid.Make().String()
		add(tree, logbook.Entry{ID: tree, Kind: logbook.KindStart, Start: &logbook.Start{Among: logbook.Among{Region: "eastern-north-america"},
			Place: logbook.Place{Tag: fmt.Sprintf("D%d-%d", device, n), Tract: tract, Stand: fmt.Sprint("Stand ", n%6)}}})
		add(tree, logbook.Entry{ID: look, Kind: logbook.KindLook, From: "tree", Visit: visit})
		for i := range 20 {
			score := answersOf[(n+i)%len(answersOf)]
			add(tree, logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindScore, Look: look, Score: &score})
		}
	}
	return sent[:entries]
}

// TestDevicesComeHome has devices send what they brought in batches, all at once, while
// somebody asks for lists. Everything is taken; times are logged and decide nothing.
func TestDevicesComeHome(t *testing.T) {
	t.Parallel()
	devices, entries := comingHome()
	path, addr := filepath.Join(t.TempDir(), "book.db"), freePort(t)
	cmd := served(t, path, addr)
	stop, lists := make(chan struct{}), []time.Duration{}
	var asking, sending sync.WaitGroup
	asking.Go(func() {
		for {
			select {
			case <-stop:
				return
			case <-time.After(100 * time.Millisecond):
				began := time.Now()
				res, err := http.Get("http://" + addr + "/api/trees?limit=100")
				if err == nil && res.Body.Close() == nil {
					lists = append(lists, time.Since(began))
				}
			}
		}
	})
	began, taken := time.Now(), make([]int, devices)
	for d := range devices {
		sending.Go(func() {
			for batch := range slices.Chunk(dayInTheWoods(d, entries), book.MeetMost) {
				taken[d] += told(t, addr, batch)
			}
		})
	}
	sending.Wait()
	took := time.Since(began)
	close(stop)
	asking.Wait()
	require.NoError(t, cmd.Process.Kill())
	_ = cmd.Wait() // it was killed, and says so
	for _, n := range taken {
		require.Equal(t, entries, n)
	}
	b := booktest.At(t, path)
	c, err := b.Trees(t.Context(), book.Query{}, 1, 0)
	require.NoError(t, err)
	require.Equal(t, devices*((entries-1+21)/22), c.Total)
	slices.Sort(lists)
	file, err := os.Stat(path)
	require.NoError(t, err)
	t.Logf("%d devices, %d entries in %s: %.0f a second; lists: median %s, p99 %s; the book has %d MB", devices, devices*entries, took,
		float64(devices*entries)/took.Seconds(), lists[len(lists)/2], lists[len(lists)*99/100], file.Size()>>20)
}

// told sends a batch, and gives how many of it were taken.
func told(t *testing.T, addr string, batch []book.Sent) (taken int) {
	t.Helper()
	text, err := json.Marshal(book.Meeting{Version: book.LogVersion, Entries: batch})
	require.NoError(t, err)
	res, err := http.Post("http://"+addr+"/api/meeting", "application/json", bytes.NewReader(text))
	require.NoError(t, err)
	defer res.Body.Close()
	var answers []book.Met
	require.NoError(t, json.NewDecoder(res.Body).Decode(&answers))
	for _, a := range answers {
		if a.Answer == book.Taken {
			taken++
		}
	}
	return taken
}
