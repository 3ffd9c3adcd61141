//go:build !js

package web

import (
	"net/http"

	"github.com/go-chi/chi/v5/middleware"
)

// outermost are what every request goes through first. Pages and scripts are packed well, answers quickly: a twentieth
// larger, they take half the time. In a browser nothing is packed to go over a line.
var outermost = []func(http.Handler) http.Handler{
	middleware.Compress(5, "text/html", "text/css", "text/plain", "text/javascript", "application/javascript", "image/svg+xml"),
	middleware.Compress(2, "application/json"),
}
