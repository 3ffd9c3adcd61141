package web

import (
	"context"
	"net/http"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"golang.org/x/sync/semaphore"
)

// Work that takes much memory or time is bounded for all together and for each. Beyond that it
// waits a while for its turn, and is then refused with when to come again. Files that arrive are
// bounded by themselves, before their bodies are read: a slow line keeps nobody from printing.
const (
	heavyRoom   = 4  // of heavy work at once; a file that is read in takes all of it
	heavyEach   = 8  // of one person or address, those that wait among them
	heavyMost   = 24 // of all, those that wait among them
	uploadsRoom = 12 // files that arrive at once, of 25 MB at most
	uploadsEach = 4
	entriesRoom = 12 // batches of entries that arrive at once, of 16 MB at most
	entriesEach = 4
	entriesMost = 600 // those that wait among them: a whole crew comes home of an evening
	heavyWait   = 30 * time.Second
	heavyAfter  = "10" // seconds until one may come again
)

// works counts the heavy work of one kind that goes on or waits.
type works struct {
	room       *semaphore.Weighted
	each, most int // of one person or address, and of all; those that wait among them

	mu  sync.Mutex
	of  map[string]int
	all int
}

func newWorks(room int64, each, most int) *works {
	return &works{room: semaphore.NewWeighted(room), each: each, most: most, of: map[string]int{}}
}

// begin waits for room. The function that it gives is called when the work is done.
func (w *works) begin(ctx context.Context, who string, takes int64) (done func(), err error) {
	if !w.count(who) {
		return nil, errBusy()
	}
	wait, stop := context.WithTimeout(ctx, heavyWait)
	defer stop()
	if w.room.Acquire(wait, takes) != nil {
		w.uncount(who)
		return nil, errBusy()
	}
	return func() {
		w.room.Release(takes)
		w.uncount(who)
	}, nil
}

func (w *works) count(who string) bool {
	w.mu.Lock()
	defer w.mu.Unlock()
	if w.of[who] >= w.each || w.all >= w.most {
		return false
	}
	w.of[who]++
	w.all++
	return true
}

func (w *works) uncount(who string) {
	w.mu.Lock()
	defer w.mu.Unlock()
	if w.all--; w.of[who] == 1 {
		delete(w.of, who)
		return
	}
	w.of[who]--
}

// roomFor is what bounds an operation; nil: nothing.
func (s *Server) roomFor(in scope) *works {
	return s.works[in&(heavy|upload|entries)]
}

// reserved waits for as much room as a file that is read in takes.
func (s *Server) reserved(ctx context.Context) (done func(), err error) {
	return s.works[heavy].begin(ctx, by(ctx, sourceOf(ctx).address), heavyRoom)
}

func errBusy() error {
	return huma.ErrorWithHeaders(
		huma.Error503ServiceUnavailable("the server has much to do; nothing was changed: try again in "+heavyAfter+" seconds"),
		http.Header{"Retry-After": {heavyAfter}})
}
