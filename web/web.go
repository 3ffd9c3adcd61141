// Package web serves the book and the flora over HTTP: typed operations under
// /api, described by OpenAPI at /openapi.json, and the interface's files. It is
// the only package that knows both the core and the store.
package web

import (
	"context"
	"fmt"
	"io/fs"
	"log/slog"
	"net/http"
	"strings"
	"sync/atomic"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"

	"palethicket/core/flora"
	"palethicket/core/handbook"
	"palethicket/core/identify"
	"palethicket/core/names"
	"palethicket/store"
)

// Server answers requests against one book and one flora.
type Server struct {
	store *store.Store
	base  *flora.Flora // without the book's own lists
	shelf atomic.Pointer[shelf]
	log   *slog.Logger
}

// shelf is the flora with the book's lists, and what is worked out from it. It is
// made anew when a list changes.
type shelf struct {
	flora  *flora.Flora
	engine *identify.Engine
	book   *handbook.Book
	names  *names.Index
}

func newShelf(f *flora.Flora) *shelf {
	return &shelf{flora: f, engine: identify.NewEngine(f), book: handbook.New(f), names: names.NewIndex(f)}
}

// New makes a Server. It does not know the book's lists until [Server.Reload].
func New(s *store.Store, f *flora.Flora, log *slog.Logger) *Server {
	srv := &Server{store: s, base: f, log: log}
	srv.shelf.Store(newShelf(f))
	return srv
}

// Reload takes the book's lists in.
func (s *Server) Reload(ctx context.Context) error {
	lists, err := s.store.Lists(ctx)
	if err != nil {
		return err
	}
	f, err := s.base.With(lists...)
	if err != nil {
		return fmt.Errorf("reading the book's lists: %w", err)
	}
	s.shelf.Store(newShelf(f))
	return nil
}

func (s *Server) flora() *flora.Flora      { return s.shelf.Load().flora }
func (s *Server) engine() *identify.Engine { return s.shelf.Load().engine }

// Handler serves the API and, for every other path, the interface from pages:
// a file where there is one, else index.html, as the interface routes itself.
func (s *Server) Handler(pages fs.FS) http.Handler {
	r := chi.NewRouter()
	r.Use(middleware.Recoverer, middleware.Compress(5), headers)
	s.API(r)
	r.NotFound(interfacePages(pages))
	return r
}

// API registers the operations on a router and gives their description.
func (s *Server) API(r chi.Router) huma.API {
	cfg := huma.DefaultConfig("Pale Thicket", "1")
	cfg.Info.Description = "Naming leafless trees from partial looks, and keeping the record."
	cfg.DocsPath = "" // its pages would fetch scripts from the network
	cfg.CreateHooks = nil
	api := humachi.New(r, cfg)
	s.deskOperations(api)
	s.floraOperations(api)
	s.listOperations(api)
	s.treeOperations(api)
	return api
}

// headers keep the pages from loading anything that is not ours.
func headers(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; frame-ancestors 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "no-referrer")
		if strings.HasPrefix(r.URL.Path, "/api/") {
			h.Set("Cache-Control", "no-store")
		}
		next.ServeHTTP(w, r)
	})
}

func interfacePages(pages fs.FS) http.HandlerFunc {
	files := http.FileServerFS(pages)
	return func(w http.ResponseWriter, r *http.Request) {
		name := strings.TrimPrefix(r.URL.Path, "/")
		switch info, err := fs.Stat(pages, name); {
		case strings.HasPrefix(r.URL.Path, "/api/"):
			http.NotFound(w, r)
			return
		case name == "" || err != nil || info.IsDir():
			r.URL.Path = "/"
			w.Header().Set("Cache-Control", "no-cache")
		default: // built files carry a hash of what they hold in their names
			w.Header().Set("Cache-Control", "max-age=31536000, immutable")
		}
		files.ServeHTTP(w, r)
	}
}
