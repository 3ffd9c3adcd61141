//go:build js

package main

import (
	"bytes"
	"net/http"
	"net/url"
	"runtime/debug"
	"syscall/js"
)

// ask answers a request of the page: its method, address, headers as pairs, and body as
// a Uint8Array or null. The answer is an object of status, headers and body.
func (p *program) ask(args []js.Value) (any, error) {
	if p.handler == nil {
		return nil, errOpen
	}
	at, err := url.Parse(args[1].String())
	if err != nil {
		return nil, err
	}
	r := &http.Request{Method: args[0].String(), URL: at, Host: "localhost", RemoteAddr: "127.0.0.1:1", RequestURI: at.RequestURI(),
		Proto: "HTTP/1.1", ProtoMajor: 1, ProtoMinor: 1, Header: http.Header{}}
	for i := range args[2].Length() {
		r.Header.Add(args[2].Index(i).Index(0).String(), args[2].Index(i).Index(1).String())
	}
	var body []byte
	if args[3].Truthy() {
		body = make([]byte, args[3].Get("byteLength").Int())
		js.CopyBytesToGo(body, args[3])
	}
	r.Body, r.ContentLength = whole(body), int64(len(body))
	w := &answer{header: http.Header{}}
	p.serve(w, r)
	return w.toJS(), nil
}

// serve answers; what goes wrong in one answer is not to end the program.
func (p *program) serve(w *answer, r *http.Request) {
	defer func() {
		if wrong := recover(); wrong != nil {
			p.log.Error("an answer broke off", "address", r.URL.Path, "error", wrong, "stack", string(debug.Stack()))
			*w = answer{status: http.StatusInternalServerError, header: http.Header{}}
		}
	}()
	p.handler.ServeHTTP(w, r)
}

// reader is a body that was sent whole.
type reader struct{ *bytes.Reader }

func (reader) Close() error { return nil }

func whole(b []byte) reader { return reader{bytes.NewReader(b)} }

// answer is an answer as it is written.
type answer struct {
	status int
	header http.Header
	body   bytes.Buffer
}

func (a *answer) Header() http.Header { return a.header }

func (a *answer) WriteHeader(status int) {
	if a.status == 0 {
		a.status = status
	}
}

func (a *answer) Write(b []byte) (int, error) {
	a.WriteHeader(http.StatusOK)
	return a.body.Write(b)
}

func (a *answer) toJS() js.Value {
	headers := js.Global().Get("Array").New()
	for name, values := range a.header {
		for _, value := range values {
			headers.Call("push", js.ValueOf([]any{name, value}))
		}
	}
	body := js.Global().Get("Uint8Array").New(a.body.Len())
	js.CopyBytesToJS(body, a.body.Bytes())
	return js.ValueOf(map[string]any{"status": max(a.status, http.StatusOK), "headers": headers, "body": body})
}
