//go:build js

// Command field is the program for the browser. In a worker of the page it opens the
// part of the book that lies in the device's own storage, and answers what the page asks
// as the server does, by the same handlers. The page's side is ui/src/woods/worker.ts.
//
// It adds one object, field, to the worker's globals; what its functions give are promises:
//
//	field.open(file, base, now)        opens the book in a file; base is where home is
//	field.begin(file, taken)           makes a device of a part that just came; gives a session
//	field.carry(from, to)              takes over into one file what another holds and home lacks
//	field.ask(method, url, headers, body)
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
	p := &program{log: slog.New(slog.NewTextHandler(os.Stderr, nil))}
	js.Global().Set("field", map[string]any{
		"open":  promised(func(args []js.Value) (any, error) { return nil, p.open(args[0].String(), args[1].String()) }),
		"begin": promised(func(args []js.Value) (any, error) { return p.begin(args[0].String(), args[1].String()) }),
		"carry": promised(func(args []js.Value) (any, error) { return p.carry(args[0].String(), args[1].String()) }),
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

var errOpen = errors.New("no book is open on this device")

// openBook opens a book in a file of the device's storage.
func openBook(ctx context.Context, file string) (*book.Book, error) {
	for _, name := range []string{file, file + "-wal", file + "-journal"} { // whatever it needs is then at hand
		if err := opfs.Take(name); err != nil {
			return nil, err
		}
	}
	f, err := flora.Load(files.Files)
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
	ctx, stop := context.WithCancel(context.Background())
	b, err := openBook(ctx, file)
	if err != nil {
		stop()
		opfs.Free()
		return err
	}
	device, err := away.Open(ctx, b, base, http.DefaultClient, time.Now)
	if err != nil {
		stop()
		err = errors.Join(err, b.Close())
		opfs.Free()
		return err
	}
	server := web.New(b, web.Options{Log: p.log, Guarded: device.Guarded(), Away: device})
	p.book, p.stop, p.handler = b, stop, server.Handler(noPages)
	go func() {
		if err := b.WeighStale(ctx, func(int, int) {}); err != nil && ctx.Err() == nil {
			p.log.Error("weighing trees with this flora", "error", err)
		}
		device.Run(ctx)
	}()
	return nil
}

// noPages: the page has them already.
var noPages fs.FS = fstest.MapFS{"index.html": {}}

// begin makes a device of the part of a book in a file, and gives the session of whoever
// took it along.
func (p *program) begin(file, taken string) (session any, err error) {
	var t away.Taken
	if err := json.Unmarshal([]byte(taken), &t); err != nil {
		return nil, err
	}
	ctx := context.Background()
	b, err := openBook(ctx, file)
	if err != nil {
		return nil, err
	}
	session, err = away.Begin(ctx, b, t, time.Now())
	err = errors.Join(err, b.Close())
	opfs.Free()
	return session, err
}

// carry takes over into the book in one file what the one in another holds and home does
// not have, and gives how many entries that were.
func (p *program) carry(from, to string) (n any, err error) {
	ctx := context.Background()
	old, err := openBook(ctx, from)
	if err != nil {
		return 0, err
	}
	count := 0
	next, err := openBook(ctx, to)
	if err == nil {
		count, err = away.Carry(ctx, old, next)
		err = errors.Join(err, next.Close())
	}
	err = errors.Join(err, old.Close())
	opfs.Free()
	return count, err
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
