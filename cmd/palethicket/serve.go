package main

import (
	"context"
	"crypto/tls"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"os"
	"runtime/debug"
	"slices"
	"syscall"
	"time"

	"github.com/go-chi/chi/v5"

	"palethicket/book"
	"palethicket/demo"
	"palethicket/instrument"
	"palethicket/instrument/simulate"
	"palethicket/ui"
	"palethicket/web"
)

type serveCmd struct {
	bookFlags
	listenFlags
}

// listenFlags say where to serve.
type listenFlags struct {
	Listen string `help:"Address to serve at. Beyond this machine the crew sign in." default:"127.0.0.1:8080" env:"PALETHICKET_LISTEN"`
	Cert   string `help:"Certificate (PEM), to serve over TLS." type:"existingfile" env:"PALETHICKET_CERT"`
	Key    string `help:"The certificate's key (PEM)." type:"existingfile" env:"PALETHICKET_KEY"`

	LocalInstruments bool `help:"Let leads name instruments on this machine and its link." env:"PALETHICKET_LOCAL_INSTRUMENTS"`

	SignInEvery time.Duration `help:"Between tries to sign in from one network." default:"250ms" env:"PALETHICKET_SIGN_IN_EVERY"`

	Proxies []netip.Prefix `name:"trusted-proxy" help:"Proxies (10.0.0.2/32) believed who asks, and how." env:"PALETHICKET_TRUSTED_PROXY"`
}

func (c *serveCmd) Run(ctx context.Context) error {
	return serve(ctx, c.bookFlags, c.listenFlags, func(ctx context.Context, b *book.Book) error {
		return b.RememberServed(ctx, book.Served{Flora: c.Flora, Lists: c.Lists})
	})
}

type demoCmd struct {
	NoInstruments bool   `help:"Do without the simulated instruments."`
	Faults        bool   `help:"Let the simulated instruments go through their faults."`
	Data          string `help:"The demo's own book." default:"palethicket-demo.db" type:"path"`
	Listen        string `help:"Address to serve at." default:"127.0.0.1:8080"`
}

func (c *demoCmd) Run(ctx context.Context) error {
	return serve(ctx, bookFlags{Data: c.Data}, listenFlags{Listen: c.Listen}, func(ctx context.Context, b *book.Book) error {
		if err := demo.Fill(ctx, b); err != nil || c.NoInstruments {
			return err
		}
		return demo.Instruments(ctx, b, simulate.Options{Faults: c.Faults})
	})
}

type openAPICmd struct{}

func (c *openAPICmd) Run() error {
	enc := json.NewEncoder(os.Stdout)
	enc.SetIndent("", "  ")
	return enc.Encode(web.New(nil, web.Options{Log: slog.Default()}).API(chi.NewRouter()).OpenAPI())
}

// tidyAbove is how many bytes of memory the server takes before it lets go of what it needs no more as
// soon as it can, rather than now and then.
const tidyAbove = 400 << 20

// serve opens the book, gets it ready, and answers until ctx is done; then it
// finishes what it was answering.
func serve(ctx context.Context, data bookFlags, at listenFlags, ready func(context.Context, *book.Book) error) (err error) {
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(tidyAbove)
	}
	b, err := data.open(ctx, true)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, b.Close()) }()
	if err := ready(ctx, b); err != nil {
		return err
	}
	pages, err := ui.Pages()
	if err != nil {
		return err
	}
	ln, err := listen(at)
	if err != nil {
		return err
	}
	guarded := beyond(at.Listen) || len(at.Proxies) > 0
	hub := instrument.NewHub(at.LocalInstruments || !guarded)
	defer hub.Close()
	if err := b.Listen(ctx, hub); err != nil {
		return errors.Join(err, ln.Close())
	}
	opt := web.Options{
		Instruments: hub,

		Log:     slog.New(slog.NewTextHandler(os.Stderr, nil)),
		Guarded: guarded,
		Proxies: at.Proxies,

		SignInEvery: at.SignInEvery,
	}
	if opt.Guarded {
		if err := hasLead(ctx, b); err != nil {
			return errors.Join(err, ln.Close())
		}
	}
	for _, name := range b.Hidden {
		fmt.Printf("The book's own list %q is hidden while it is served with another of that name.\n", name)
	}
	listening, done := context.WithCancel(ctx)
	defer done()
	go web.KeepWarmth(listening, b, hub, opt.Log)
	srv := newServer(web.New(b, opt).Handler(pages))
	srv.RegisterOnShutdown(hub.Close) // who watches would hold it up
	fmt.Printf("Pale Thicket is at %s://%s with the book %s. Ctrl-C stops it.\n", scheme(at), ln.Addr(), data.Data)
	return answerUntil(ctx, srv, ln)
}

// newServer has nobody hold a connection for nothing. A file from the woods may take
// ten minutes to arrive; what is sent slowly has a time of its own for each piece.
func newServer(h http.Handler) *http.Server {
	return mostConns(&http.Server{Handler: h, ReadHeaderTimeout: 10 * time.Second, ReadTimeout: 11 * time.Minute,
		WriteTimeout: 12 * time.Minute, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10}, connsMost)
}

// beyond says whether an address can be reached from another machine.
func beyond(addr string) bool {
	host, _, err := net.SplitHostPort(addr)
	if err != nil {
		return true
	}
	ip := net.ParseIP(host)
	return host != "localhost" && (ip == nil || !ip.IsLoopback())
}

// hasLead refuses to serve others a book that nobody could sign in to.
func hasLead(ctx context.Context, b *book.Book) error {
	crew, err := b.Crew(ctx)
	if err != nil {
		return err
	}
	if !slices.ContainsFunc(crew, func(a book.Member) bool { return a.Role == book.Lead && !a.Closed }) {
		return errors.New("to serve beyond this machine the crew must be able to sign in: " +
			"add a lead first with 'palethicket crew add NAME --role lead', or listen at 127.0.0.1")
	}
	return nil
}

func listen(at listenFlags) (net.Listener, error) {
	ln, err := net.Listen("tcp", at.Listen)
	if errors.Is(err, syscall.EADDRINUSE) {
		return nil, fmt.Errorf("%s is in use by another program: stop it, or choose another address with --listen", at.Listen)
	}
	if err != nil {
		return nil, fmt.Errorf("cannot listen at %s: %w", at.Listen, err)
	}
	if at.Cert == "" {
		if beyond(at.Listen) {
			fmt.Println("Without --cert and --key what is sent can be read on the way, and phones keep nothing for the woods. " +
				"Make both with 'palethicket certificate', or use a proxy that speaks TLS.")
		}
		return ln, nil
	}
	pair, err := tls.LoadX509KeyPair(at.Cert, at.Key)
	if err != nil {
		return nil, errors.Join(fmt.Errorf("reading the certificate %s and its key: %w", at.Cert, err), ln.Close())
	}
	return tls.NewListener(
		ln,
		&tls.Config{Certificates: []tls.Certificate{pair}, MinVersion: tls.VersionTLS12, NextProtos: []string{"h2", "http/1.1"}},
	), nil
}

func scheme(at listenFlags) string {
	if at.Cert != "" {
		return "https"
	}
	return "http"
}

func answerUntil(ctx context.Context, srv *http.Server, ln net.Listener) error {
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
