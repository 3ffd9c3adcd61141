package web_test

import (
	"log/slog"
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/demo/demotest"
	"palethicket/web"
)

// BenchmarkUnchangedPoll asks again for a tree that nobody has touched.
func BenchmarkUnchangedPoll(b *testing.B) {
	bk := demotest.New(b)
	list, err := bk.Trees(b.Context(), book.Query{Text: "LC-101"}, 1, 0)
	require.NoError(b, err)
	h := web.New(bk, web.Options{Log: slog.New(slog.DiscardHandler)}).Handler(nil)
	ask := func(revision string) *httptest.ResponseRecorder {
		req := httptest.NewRequest(http.MethodGet, "http://127.0.0.1/api/trees/"+list.Trees[0].ID, nil)
		req.Header.Set("If-None-Match", revision)
		w := httptest.NewRecorder()
		h.ServeHTTP(w, req)
		return w
	}
	revision := ask("").Header().Get("ETag")
	require.NotEmpty(b, revision)
	for b.Loop() {
		if w := ask(revision); w.Code != http.StatusNotModified {
			b.Fatalf("status %d: %s", w.Code, w.Body)
		}
	}
}
