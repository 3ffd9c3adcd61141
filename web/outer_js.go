package web

import "net/http"

var outermost []func(http.Handler) http.Handler
