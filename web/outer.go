//go:build !js

package web

import (
	"net/http"

	"github.com/go-chi/chi/v5/middleware"
)

// outermost are what every request goes through first. In a browser nothing is packed to
// go over a line.
var outermost = []func(http.Handler) http.Handler{middleware.Compress(5)}
