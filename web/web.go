// Package web serves the book and the flora over HTTP: typed operations under
// /api, described by OpenAPI at /openapi.json, and the interface's files. It is
// it puts the book's work on the wire and does none of it.
package web

import (
	"io/fs"
	"log/slog"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"

	"palethicket/book"
	"palethicket/core/flora"
	"palethicket/core/tree/answer"
)

// Server answers requests against one book.
type Server struct {
	book    *book.Book
	log     *slog.Logger
	guarded bool
	tries   limiter
}

// New makes a Server.
func New(b *book.Book, log *slog.Logger) *Server { return &Server{book: b, log: log} }

// Guard has everybody sign in: for a server that is reached from beyond its
// machine.
func (s *Server) Guard() { s.guarded = true }

func (s *Server) flora() *flora.Flora    { return s.book.Shelf().Flora }
func (s *Server) engine() *answer.Engine { return s.book.Shelf().Engine }

// Handler serves the API and, for every other path, the interface from pages:
// a file where there is one, else index.html, as the interface routes itself.
func (s *Server) Handler(pages fs.FS) http.Handler {
	r := chi.NewRouter()
	r.Use(middleware.Recoverer, middleware.Compress(5), headers, http.NewCrossOriginProtection().Handler)
	if s.guarded {
		r.Use(s.guard)
	}
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
	s.placeOperations(api)
	s.workOperations(api)
	s.crewOperations(api)
	s.fileOperations(api)
	s.photoOperations(api)
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
