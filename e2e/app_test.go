package e2e

import (
	"context"
	"encoding/json"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/demo"
	"palethicket/demo/demotest"
	"palethicket/instrument"
	"palethicket/instrument/simulate"
	"palethicket/ui"
	"palethicket/web"
)

// app is a running Pale Thicket over a book.
type app struct {
	t    *testing.T
	book *book.Book
	data string
	addr string
	stop func()

	pages fs.FS            // what it serves; nil: the interface as it was built
	crew  []book.NewMember // who signs in; nobody needs to without
	hired bool             // the book has them
	kit   bool             // simulated instruments are listened to
	hang  string           // requests for addresses that hold it are never answered; empty: none
	held  chan struct{}    // "/worklist" is answered once it is closed; nil: at once
	line  *atomic.Int64    // bytes that went over it
	cut   *atomic.Int64    // after so many bytes the next download of a tract breaks off; 0: it does not
	rests *atomic.Int64    // how often the rest of one was asked for
}

// newApp serves a book of the test's own, which it may write to: a copy of the demo's, or an empty one.
func newApp(t *testing.T, demo bool) *app {
	t.Helper()
	return serve(t, &app{data: newBook(t, demo)})
}

// newCrew serves such a book to a crew.
func newCrew(t *testing.T, demo bool, crew ...book.NewMember) *app {
	t.Helper()
	return serve(t, &app{data: newBook(t, demo), crew: crew})
}

func newBook(t *testing.T, demo bool) (path string) {
	t.Helper()
	folder := t.TempDir()
	if demo {
		demotest.CopyTo(t, folder)
	}
	return filepath.Join(folder, "book.db")
}

// serve serves a book until the test ends.
func serve(t *testing.T, a *app) *app {
	t.Helper()
	a.t = t
	a.count()
	a.start()
	t.Cleanup(func() { a.stop() })
	return a
}

// count begins to count what goes over the line, at an address not chosen yet.
func (a *app) count() {
	a.addr, a.line, a.cut, a.rests = "127.0.0.1:0", new(atomic.Int64), new(atomic.Int64), new(atomic.Int64)
}

// shared is one copy of the demo's book, served to all tests that only read.
var (
	shared   *app
	sharedMu sync.Mutex
)

// sharedApp serves the demo's book to a test that does not write to it.
func sharedApp(t *testing.T) *app {
	t.Helper()
	sharedMu.Lock()
	defer sharedMu.Unlock()
	if shared == nil {
		folder := sharedFolder(t)
		demotest.CopyTo(t, folder)
		shared = &app{t: t, data: filepath.Join(folder, "book.db")}
		shared.count()
		shared.start()
		atEnd(func() { shared.stop() })
	}
	mine := *shared
	mine.t = t
	mine.stop = func() { t.Fatal("other tests read this book too: serve your own") }
	return &mine
}

// start serves the book at the address it had before, if any.
func (a *app) start() {
	a.t.Helper()
	b, err := book.Open(context.Background(), a.data, booktest.Options(a.t))
	require.NoError(a.t, err)
	require.NoError(a.t, b.WeighStale(context.Background(), func(int, int) {}))
	a.book = b
	if a.pages == nil {
		pages, err := ui.Pages()
		require.NoError(a.t, err)
		a.pages = pages
	}
	ln, err := net.Listen("tcp", a.addr)
	require.NoError(a.t, err)
	a.addr = ln.Addr().String()
	for _, m := range a.crew {
		if a.hired {
			break
		}
		require.NoError(a.t, b.AddMember(a.t.Context(), m))
	}
	a.hired = len(a.crew) > 0
	hub := instrument.NewHub(true)
	simulating, quiet := context.WithCancel(context.Background())
	if a.kit {
		require.NoError(a.t, demo.Instruments(simulating, b, simulate.Options{Every: time.Second}))
		require.NoError(a.t, b.Listen(a.t.Context(), hub))
	}
	app := web.New(b, web.Options{Log: slog.New(slog.DiscardHandler), Guarded: len(a.crew) > 0, Instruments: hub})
	srv := &http.Server{Handler: a.hanging(app.Handler(a.pages))}
	go srv.Serve(counted{ln, a.line})
	a.stop = func() {
		hub.Close()
		quiet()
		srv.Close()
		b.Close()
		a.stop = func() {}
	}
}

// hanging leaves some requests without an answer, until their client gives up.
func (a *app) hanging(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if a.hang != "" && strings.Contains(r.URL.Path, a.hang) {
			<-r.Context().Done()
			return
		}
		if a.held != nil && r.URL.Path == "/worklist" {
			<-a.held
		}
		if r.URL.Path == "/api/along" {
			if r.Header.Get("Range") != "" {
				a.rests.Add(1)
			}
			if cut := a.cut.Swap(0); cut > 0 {
				w = &cutShort{w, cut}
			}
		}
		next.ServeHTTP(w, r)
	})
}

// cutShort breaks an answer off.
type cutShort struct {
	http.ResponseWriter
	left int64
}

func (c *cutShort) Write(b []byte) (int, error) {
	if c.left -= int64(len(b)); c.left < 0 {
		_ = http.NewResponseController(c.ResponseWriter).Flush()
		time.Sleep(time.Second) // so that what was sent arrives
		panic(http.ErrAbortHandler)
	}
	return c.ResponseWriter.Write(b)
}

func (c *cutShort) Unwrap() http.ResponseWriter { return c.ResponseWriter }

// ends are run after all tests, the last first.
var (
	ends   []func()
	endsMu sync.Mutex
)

func atEnd(do func()) {
	endsMu.Lock()
	defer endsMu.Unlock()
	ends = append(ends, do)
}

// sharedFolder is removed after all tests.
func sharedFolder(t *testing.T) string {
	t.Helper()
	folder, err := os.MkdirTemp("", "palethicket-e2e")
	require.NoError(t, err)
	atEnd(func() { os.RemoveAll(folder) })
	return folder
}

func TestMain(m *testing.M) {
	demotest.Main(m, func() {
		for _, do := range slices.Backward(ends) {
			do()
		}
	})
}

func (a *app) url(path string) string { return "http://" + a.addr + path }

// answer asks the API, as nobody in particular.
func (a *app) answer(path string) string {
	a.t.Helper()
	res, err := http.Get(a.url(path))
	require.NoError(a.t, err)
	defer res.Body.Close()
	text, err := io.ReadAll(res.Body)
	require.NoError(a.t, err)
	return string(text)
}

func decoded[T any](t *testing.T, text string) (v T) {
	t.Helper()
	require.NoError(t, json.Unmarshal([]byte(text), &v), text)
	return v
}

// tree gives the id of the tree with a tag.
func (a *app) tree(tag string) string {
	a.t.Helper()
	for _, t := range decoded[book.TreeList](a.t, a.answer("/api/trees?text="+tag)).Trees {
		if t.Tag == tag {
			return t.ID
		}
	}
	a.t.Fatalf("no tree %s", tag)
	return ""
}

// view asks the API for a tree as it stands.
func (a *app) view(id string) book.TreeView {
	a.t.Helper()
	v := decoded[book.TreeView](a.t, a.answer("/api/trees/"+id))
	// What was said of the site at another tree of the stand was there before anybody looked here.
	v.Looks = slices.DeleteFunc(v.Looks, func(l book.LookView) bool { return strings.HasPrefix(l.Note, "As at ") })
	return v
}
