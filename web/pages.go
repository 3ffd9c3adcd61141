package web

import (
	"io"
	"io/fs"
	"net/http"
	"strings"

	"github.com/andybalholm/brotli"
)

// packed ends the names of files that are kept packed: the program for the browser.
const packed = ".br"

// interfacePages serves the interface: a file where there is one, else index.html.
func interfacePages(pages fs.FS) http.HandlerFunc {
	files := http.FileServerFS(pages)
	return func(w http.ResponseWriter, r *http.Request) {
		name := strings.TrimPrefix(r.URL.Path, "/")
		info, err := fs.Stat(pages, name)
		switch {
		case r.Method != http.MethodGet && r.Method != http.MethodHead:
			nothingTo(w, r)
			return
		case strings.HasPrefix(r.URL.Path, "/api/"):
			refuse(w, http.StatusNotFound, "there is nothing at this address; /openapi.json lists what there is")
			return
		case err != nil && name != "" && isPacked(pages, name):
			servePacked(w, r, pages, name)
			return
		case name == "" || name == "index.html" || err != nil || info.IsDir():
			r.URL.Path = "/"
			w.Header().Set("Cache-Control", "no-cache")
		case strings.HasPrefix(name, "assets/"): // a hash of what they hold is in their names
			w.Header().Set("Cache-Control", forEver)
		default:
			w.Header().Set("Cache-Control", "no-cache")
		}
		files.ServeHTTP(w, r)
	}
}

const forEver = "max-age=31536000, immutable"

func isPacked(pages fs.FS, name string) bool {
	_, err := fs.Stat(pages, name+packed)
	return err == nil
}

// servePacked serves a file as it is kept to who can unpack it, and unpacked to others.
func servePacked(w http.ResponseWriter, r *http.Request, pages fs.FS, name string) {
	w.Header().Set("Content-Type", "application/wasm")
	w.Header().Set("Vary", "Accept-Encoding")
	w.Header().Set("Cache-Control", "no-cache")
	if r.URL.RawQuery != "" { // it names the digest of what is asked for
		w.Header().Set("Cache-Control", forEver)
	}
	if strings.Contains(r.Header.Get("Accept-Encoding"), "br") {
		w.Header().Set("Content-Encoding", "br")
		http.ServeFileFS(w, r, pages, name+packed)
		return
	}
	file, err := pages.Open(name + packed)
	if err != nil {
		refuse(w, http.StatusInternalServerError, "the program for the browser cannot be read")
		return
	}
	defer file.Close()
	_, _ = io.Copy(w, brotli.NewReader(file)) // who asked may have left
}
