//go:build js

// Command field is the program for the browser. In a worker of the page it opens the
// part of the book that lies in the device's own storage, and answers what the page asks
// as the server does, by the same handlers. The page's side is ui/src/woods/worker.ts.
//
// It adds one object, field, to the worker's globals; what its functions give are promises:
//
//	field.open(file, base)                  opens the book in a file; base is where home is
//	field.take(file, before, base, taken)   makes a part that just came the device's book, in place
//	                                        of the one in the file before; gives a session
//	field.ask(method, url, headers, body)   answers
//	field.close()
package main

import (
	"context"
	"encoding/json"
	"errors"
	"io/fs"
	"log/slog"
	"net/http"
	"os"
	"runtime/debug"
	"sync"
	"syscall/js"
	"testing/fstest"
	"time"

	"palethicket/away"
	"palethicket/book"
	"palethicket/core/flora"
	"palethicket/core/stand/revisit"
	files "palethicket/flora"

	"palethicket/store/opfs"
	"palethicket/web"
)

func main() {
	debug.SetGCPercent(-1) // nothing is in the way yet; see open
	p := &program{log: slog.New(slog.NewTextHandler(os.Stderr, nil))}
	js.Global().Set("field", map[string]any{
		"open": promised(func(args []js.Value) (any, error) { return nil, p.open(args[0].String(), args[1].String()) }),
		"take": promised(func(args []js.Value) (any, error) {
			return p.take(args[0].String(), args[1].String(), args[2].String(), args[3].String())
		}),
		"ask":   promised(p.ask),
		"close": promised(func([]js.Value) (any, error) { return nil, p.close() }),
	})
	js.Global().Get("ready").Invoke()
	select {}
}

// program is the book that is open, and what answers for it.
type program struct {
	book    *book.Book
	handler http.Handler
	stop    context.CancelFunc
	log     *slog.Logger
}

// promised is a function for JavaScript that gives a promise: what it does may wait.
func promised(do func(args []js.Value) (any, error)) js.Func {
	return js.FuncOf(func(_ js.Value, args []js.Value) any {
		var settle js.Func
		settle = js.FuncOf(func(_ js.Value, with []js.Value) any {
			go func() {
				defer settle.Release()
				out, err := do(args)
				if err != nil {
					with[1].Invoke(js.Global().Get("Error").New(err.Error()))
					return
				}
				with[0].Invoke(out)
			}()
			return nil
		})
		return js.Global().Get("Promise").New(settle)
	})
}

// loaded is the flora in the program, read once.
var loaded = sync.OnceValues(func() (*flora.Flora, error) { return flora.Thaw(files.Frozen) })

var errOpen = errors.New("no book is open on this device")

// openBook opens a book in a file of the device's storage.
func openBook(ctx context.Context, file string) (*book.Book, error) {
	for _, name := range []string{file, file + "-wal", file + "-journal"} { // whatever it needs is then at hand
		if err := opfs.Take(name); err != nil {
			return nil, err
		}
	}
	f, err := loaded()
	if err != nil {
		return nil, err
	}
	calendar, err := revisit.Load(files.Files)
	if err != nil {
		return nil, err
	}
	return book.Open(ctx, "/"+file, book.Options{Flora: f, Calendar: calendar, Away: true})
}

func (p *program) open(file, base string) error {
	ctx := p.begin()
	b, err := openBook(ctx, file)
	if err == nil {
		if err = p.use(ctx, b, base); err != nil {
			err = errors.Join(err, b.Close())
		}
	}
	if err != nil {
		p.stop()
		opfs.Free()
	}
	return err
}

// begin gives what is done when the book is closed.
func (p *program) begin() context.Context {
	ctx, stop := context.WithCancel(context.Background())
	p.stop = stop
	return ctx
}

// use has an open book answer what is asked, and meet home, until ctx is done.
func (p *program) use(ctx context.Context, b *book.Book, base string) error {
	device, err := away.Open(ctx, b, base, http.DefaultClient, time.Now)
	if err != nil {
		return err
	}
	server := web.New(b, web.Options{Log: p.log, Guarded: device.Guarded(), Away: device})
	p.book, p.handler = b, server.Handler(noPages)
	debug.SetGCPercent(collectAt)
	go func() {
		time.Sleep(settled)
		if err := b.WarmHome(ctx); err != nil {
			return // closed meanwhile
		}
		if err := b.WeighStale(ctx, func(int, int) {}); err != nil && ctx.Err() == nil {
			p.log.Error("weighing trees with this flora", "error", err)
		}
		device.Run(ctx)
	}()
	return nil
}

// collectAt is by how much, in percent, what is in use may grow before what is no longer
// used is cleared away: as everything here takes turns, that is worth some memory.
const collectAt = 300

// settled is how long after opening the book what later presses need is worked out.
const settled = 20 * time.Second

// noPages: the page has them already.
var noPages fs.FS = fstest.MapFS{"index.html": {}}

// take makes the part of a book in a file, that just came, the device's, and opens it. It
// takes over what the book before held and home does not have, where there is one. It gives
// the session of whoever took it along.
func (p *program) take(file, before, base, taken string) (session any, err error) {
	var t away.Taken
	if err := json.Unmarshal([]byte(taken), &t); err != nil {
		return nil, err
	}
	ctx := p.begin()
	b, err := openBook(ctx, file)
	if err != nil {
		p.stop()
		return nil, err
	}
	session, err = away.Begin(ctx, b, t, time.Now())
	if err == nil && before != "" {
		err = p.carry(ctx, before, b)
	}
	if err == nil {
		err = p.use(ctx, b, base)
	}
	if err != nil {
		p.stop()
		return nil, errors.Join(err, b.Close())
	}
	return session, nil
}

// carry takes over what the book in a file held, which nothing else has open.
func (p *program) carry(ctx context.Context, before string, into *book.Book) error {
	old, err := openBook(ctx, before)
	if err != nil {
		return err
	}
	_, err = away.Carry(ctx, old, into)
	return errors.Join(err, old.Close())
}

func (p *program) close() error {
	if p.book == nil {
		return nil
	}
	p.stop()
	err := p.book.Close()
	p.book, p.handler = nil, nil
	opfs.Free()
	return err
}
