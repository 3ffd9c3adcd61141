// Package web serves the book and the flora over HTTP: typed operations under
// /api, described by OpenAPI at /openapi.json, and the interface's files. It puts the
// book's work on the wire and does none of it.
//
//	web.go          the server, its routes, how an operation answers
//	pages.go        the interface's files
//	body.go         what bounds bodies; problem.go errors as RFC 9457 problems
//	trees.go        trees, their entries, story and what is asked of them
//	stands.go       stands, tracts, visits, maps, composition, reports
//	files.go        files in and out; photos.go photographs
//	flora.go        the flora and the book's own lists; vocabulary.go its words
//	sums.go         the arithmetic of the tally card
//	key.go          printed keys
//	plots.go        sample points, and sugaring
//	day.go          a day's plan; instruments.go what instruments read
//	door.go         who may come at all; access.go who may ask which operation, of which book
//	crew.go         signing in, the crew and its devices
//	checks.go       check cruises
//	practice.go     cards and decks; walks.go walks through woods that do not exist
//	away.go         what devices ask of home, and a device's own
package web

import (
	"bufio"
	"cmp"
	"context"
	"io"
	"io/fs"
	"log/slog"
	"net/http"
	"net/netip"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"

	"palethicket/away"
	"palethicket/book"
	"palethicket/instrument"
)

// Options say how a book is served.
type Options struct {
	Log *slog.Logger
	// Guarded has everybody sign in: for a server that is reached from beyond its
	// machine.
	Guarded bool
	// Proxies are trusted to say who asks and whether by TLS.
	Proxies []netip.Prefix
	// Instruments are listened to where the program runs; nil: there are none to be had.
	Instruments *instrument.Hub
	Away        *away.Device  // the book is a part on a device; nil: it is whole
	SignInEvery time.Duration // between tries to sign in from a network where some were wrong; 0: a quarter of a second
}

// Server answers requests against one book.
type Server struct {
	book    *book.Book
	log     *slog.Logger
	guarded bool
	proxies []netip.Prefix
	away    *away.Device
	hub     *instrument.Hub
	tries   tries
	works   map[scope]*works
}

// New makes a Server. The book may be nil where only the description is asked for.
func New(b *book.Book, opt Options) *Server {
	s := &Server{
		book:    b,
		log:     opt.Log,
		guarded: opt.Guarded,
		proxies: opt.Proxies,
		away:    opt.Away,
		hub:     opt.Instruments,
		tries:   tries{every: cmp.Or(opt.SignInEvery, turnEvery)},
		works: map[scope]*works{
			heavy:   newWorks(heavyRoom, heavyEach, heavyMost),
			upload:  newWorks(uploadsRoom, uploadsEach, uploadsRoom),
			entries: newWorks(entriesRoom, entriesEach, entriesMost),
		},
	}
	return s
}

// Handler serves the API and, for every other path, the interface from pages:
// a file where there is one, else index.html, as the interface routes itself.
func (s *Server) Handler(pages fs.FS) http.Handler {
	r := chi.NewRouter()
	elsewhere := http.NewCrossOriginProtection()
	elsewhere.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		refuse(w, http.StatusForbidden, "this came from a page of another site; nothing was changed")
	}))
	r.Use(outermost...)
	r.Use(s.recovering, headers, s.locate, elsewhere.Handler)
	if !s.guarded {
		r.Use(onlyHere)
	}
	if s.away != nil {
		r.Use(s.nudging)
	}
	s.API(r)
	r.NotFound(interfacePages(pages))
	r.MethodNotAllowed(nothingTo)
	return r
}

// API registers the operations on a router and gives their description.
func (s *Server) API(r chi.Router) huma.API {
	cfg := huma.DefaultConfig("Pale Thicket", "1")
	cfg.Info.Description = "Naming leafless trees from partial looks, and keeping the record."
	cfg.DocsPath = "" // its pages would fetch scripts from the network
	cfg.CreateHooks = nil
	cfg.Formats = map[string]huma.Format{"application/json": boundedJSON(), "json": boundedJSON()}
	api := humachi.New(r, cfg)
	api.UseMiddleware(s.admit)
	s.vocabularyOperation(api)
	s.sumsOperations(api)
	s.plotOperations(api)
	s.keyOperations(api)
	s.paperOperations(api)
	s.dayOperations(api)
	s.instrumentOperations(api)
	s.floraOperations(api)
	s.plateOperations(api)
	s.practiceOperations(api)
	s.listOperations(api)
	s.barOperations(api)
	s.treeOperations(api)
	s.standOperations(api)
	s.crewOperations(api)
	s.fileOperations(api)
	s.photoOperations(api)
	s.checkOperations(api)
	s.walkOperations(api)
	s.meetingOperations(api)
	s.homeOperations(api)
	s.awayOperations(api)
	return api
}

// answered is an operation's answer.
type answered[T any] struct{ Body T }

// answer registers an operation that answers with what ask gives.
func answer[In, Out any](s *Server, api huma.API, op huma.Operation, ask func(context.Context, *In) (Out, error)) {
	huma.Register(api, op, func(ctx context.Context, in *In) (*answered[Out], error) {
		out, err := ask(ctx, in)
		if err != nil {
			return nil, s.problem(err)
		}
		return &answered[Out]{out}, nil
	})
}

// do registers an operation that answers with nothing.
func do[In any](s *Server, api huma.API, op huma.Operation, act func(context.Context, *In) error) {
	huma.Register(api, op, func(ctx context.Context, in *In) (*struct{}, error) { return nil, s.problem(act(ctx, in)) })
}

// save registers an operation that answers with a file.
func save[In any](s *Server, api huma.API, op huma.Operation, write func(context.Context, *In) (*savedFile, error)) {
	huma.Register(api, op, func(ctx context.Context, in *In) (*savedFile, error) {
		file, err := write(ctx, in)
		if err != nil {
			return nil, s.problem(err)
		}
		return file, nil
	})
}

// stream registers an operation that answers with a file as it is written. What goes
// wrong before its first bytes is answered as a problem; after them the connection is
// broken off, so that nobody takes half a file for a whole one.
func stream[In any](s *Server, api huma.API, op huma.Operation, write func(context.Context, *In) (*streamed, error)) {
	huma.Register(api, op, func(ctx context.Context, in *In) (*huma.StreamResponse, error) {
		file, err := write(ctx, in)
		if err != nil {
			return nil, s.problem(err)
		}
		return &huma.StreamResponse{Body: func(hc huma.Context) { s.send(hc, file) }}, nil
	})
}

// streamed is a file to be saved, and what writes it.
type streamed struct {
	kind, disposition string
	more              http.Header
	write             func(context.Context, io.Writer) error
}

// streamPause is how long a client may take for a piece of a file.
const streamPause = time.Minute

func (s *Server) send(hc huma.Context, file *streamed) {
	_, w := humachi.Unwrap(hc)
	out := &patient{w: w, to: http.NewResponseController(w), began: func() {
		hc.SetHeader("Content-Type", file.kind)
		hc.SetHeader("Content-Disposition", file.disposition)
		for name := range file.more {
			hc.SetHeader(name, file.more.Get(name))
		}
		hc.SetStatus(http.StatusOK)
	}}
	buffered := bufio.NewWriterSize(out, 64<<10)
	err := cmp.Or(file.write(hc.Context(), buffered), buffered.Flush())
	switch {
	case err == nil:
	case out.sent:
		s.log.Warn("a file was broken off", "error", err)
		panic(http.ErrAbortHandler)
	default:
		refuseWith(w, s.problem(err))
	}
}

// patient writes while the client takes what it is sent.
type patient struct {
	w     io.Writer
	to    *http.ResponseController
	began func()
	sent  bool
}

func (p *patient) Write(b []byte) (int, error) {
	if !p.sent {
		p.sent = true
		p.began()
	}
	_ = p.to.SetWriteDeadline(time.Now().Add(streamPause)) // where it cannot be set, the server's own holds
	return p.w.Write(b)
}

// patientWriter is a patient [http.ResponseWriter].
type patientWriter struct {
	http.ResponseWriter
	*patient
}

func (p *patientWriter) Write(b []byte) (int, error) { return p.patient.Write(b) }

// savedFile is a file to be saved.
type savedFile struct {
	ContentType        string `header:"Content-Type"`
	ContentDisposition string `header:"Content-Disposition"`
	Body               []byte
}

// PaperQuery says what a PDF is printed on.
type PaperQuery struct {
	Paper string `query:"paper" enum:"A4,Letter" default:"A4" doc:"Of a PDF"`
}

func saved(kind, name string, body []byte) *savedFile {
	return &savedFile{kind, `attachment; filename="` + name + `"`, body}
}

// headers keep the pages from loading anything that is not ours.
func headers(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set(
			"Content-Security-Policy",
			"default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; "+
				"frame-ancestors 'none'; form-action 'self'; base-uri 'none'; object-src 'none'",
		)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "no-referrer")
		if strings.HasPrefix(r.URL.Path, "/api/") {
			h.Set("Cache-Control", "no-store")
		}
		next.ServeHTTP(w, r)
	})
}
