package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"syscall"
	"time"

	"github.com/go-chi/chi/v5"

	"palethicket/core/flora"
	"palethicket/demo"
	files "palethicket/flora"
	"palethicket/store"
	"palethicket/ui"
	"palethicket/web"
)

type serveCmd struct {
	floraFlag
	Data   string `help:"The book: one SQLite file, made when there is none." default:"palethicket.db" type:"path" env:"PALETHICKET_DATA"`
	Listen string `help:"Address to serve at." default:"127.0.0.1:8080" env:"PALETHICKET_LISTEN"`
}

func (c *serveCmd) Run(ctx context.Context) error {
	f, err := c.load()
	if err != nil {
		return err
	}
	return serve(ctx, f, c.Data, c.Listen, func(context.Context, *store.Store, *flora.Flora) error { return nil })
}

type demoCmd struct {
	Data   string `help:"The demo's own book." default:"palethicket-demo.db" type:"path"`
	Listen string `help:"Address to serve at." default:"127.0.0.1:8080"`
}

func (c *demoCmd) Run(ctx context.Context) error {
	f, err := flora.Load(files.Files)
	if err != nil {
		return err
	}
	return serve(ctx, f, c.Data, c.Listen, demo.Fill)
}

type openAPICmd struct{}

func (c *openAPICmd) Run() error {
	f, err := flora.Load(files.Files)
	if err != nil {
		return err
	}
	enc := json.NewEncoder(os.Stdout)
	enc.SetIndent("", "  ")
	return enc.Encode(web.New(nil, f, slog.Default()).API(chi.NewRouter()).OpenAPI())
}

// serve opens the book, fills it, and answers until ctx is done; then it
// finishes what it was answering.
func serve(ctx context.Context, f *flora.Flora, data, listen string, fill func(context.Context, *store.Store, *flora.Flora) error) (err error) {
	if err := writable(data); err != nil {
		return err
	}
	book, err := store.Open(ctx, data)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, book.Close()) }()
	if err := fill(ctx, book, f); err != nil {
		return err
	}
	pages, err := ui.Pages()
	if err != nil {
		return err
	}
	ln, err := net.Listen("tcp", listen)
	if errors.Is(err, syscall.EADDRINUSE) {
		return fmt.Errorf("%s is in use by another program: stop it, or choose another address with --listen", listen)
	}
	if err != nil {
		return fmt.Errorf("cannot listen at %s: %w", listen, err)
	}
	log := slog.New(slog.NewTextHandler(os.Stderr, nil))
	app := web.New(book, f, log)
	if err := app.Reload(ctx); err != nil {
		return err
	}
	srv := &http.Server{Handler: app.Handler(pages), ReadHeaderTimeout: 10 * time.Second}
	fmt.Printf("Pale Thicket is at http://%s with the book %s. Ctrl-C stops it.\n", ln.Addr(), data)
	return answer(ctx, srv, ln)
}

func answer(ctx context.Context, srv *http.Server, ln net.Listener) error {
	stopped := make(chan error, 1)
	go func() {
		<-ctx.Done()
		grace, cancel := context.WithTimeout(context.Background(), 10*time.Second)
		defer cancel()
		stopped <- srv.Shutdown(grace)
	}()
	if err := srv.Serve(ln); !errors.Is(err, http.ErrServerClosed) {
		return fmt.Errorf("serving: %w", err)
	}
	return <-stopped
}

// writable says in one line why a book cannot be kept at path, if so.
func writable(path string) error {
	file, err := os.OpenFile(path, os.O_RDWR|os.O_CREATE, 0o600)
	switch {
	case errors.Is(err, os.ErrNotExist):
		return fmt.Errorf("cannot keep the book at %s: the folder %s does not exist", path, filepath.Dir(path))
	case errors.Is(err, os.ErrPermission), errors.Is(err, syscall.EROFS):
		return fmt.Errorf("cannot keep the book at %s: no permission to write there", path)
	case errors.Is(err, syscall.EISDIR):
		return fmt.Errorf("cannot keep the book at %s: it is a folder; name a file in it", path)
	case err != nil:
		return fmt.Errorf("cannot keep the book at %s: %w", path, err)
	}
	return file.Close()
}
