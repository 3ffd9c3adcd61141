package web_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"math/rand/v2"
	"net/http"
	"net/url"
	"os"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/demo/demotest"
	"palethicket/web"
)

// hostile makes requests of every operation from the API's own description: mostly of the right
// shape, with values that nobody means.
type hostile struct {
	*rand.Rand
	known *huma.OpenAPI
	ids   []string // that the book has
}

// TestHostileRequests: whatever is asked, nothing fails on the server's side. make nightly asks
// twenty thousand times.
func TestHostileRequests(t *testing.T) {
	n := 20_000 // by itself, as the memory of the whole process is looked at
	if testing.Short() {
		t.Parallel()
		n = 400
	}
	s := serving(t, demotest.New(t))
	h := &hostile{Rand: rand.New(rand.NewPCG(29, uint64(n))), known: web.New(nil, web.Options{}).API(chi.NewRouter()).OpenAPI()}
	for _, l := range get[book.TreeList](t, s, "/api/trees?limit=20").Trees {
		h.ids = append(h.ids, l.ID, l.Tag, l.Stand, l.Tract)
	}
	ops := h.operations()
	client := &http.Client{Timeout: 10 * time.Minute} // beside other tests a print of all trees takes more than one
	statuses := map[int]int{}
	for i := range n {
		op := ops[i%len(ops)]
		req := h.request(t, s.URL, op)
		res, err := client.Do(req)
		require.NoError(t, err, "%s %s", req.Method, req.URL)
		text, err := io.ReadAll(res.Body)
		require.NoError(t, errorOf(err))
		require.NoError(t, res.Body.Close())
		statuses[res.StatusCode]++
		if res.StatusCode >= 500 && res.StatusCode != http.StatusServiceUnavailable {
			t.Errorf("%s %s: %d %s", req.Method, req.URL, res.StatusCode, text)
		}
		if strings.HasSuffix(res.Header.Get("Content-Type"), "json") && !json.Valid(text) {
			t.Errorf("%s %s: %d, and no whole JSON: %.200s", req.Method, req.URL, res.StatusCode, text)
		}
	}
	t.Log(statuses)
	if mb := residentMB(t); !testing.Short() {
		require.Less(t, mb, 600)
	}
}

// errorOf leaves out that an answer was broken off on purpose.
func errorOf(err error) error {
	if err == io.ErrUnexpectedEOF {
		return nil
	}
	return err
}

// residentMB is the most memory that the program had so far, as Linux says.
func residentMB(t *testing.T) int {
	t.Helper()
	text, err := os.ReadFile("/proc/self/status")
	if err != nil {
		return 0
	}
	_, peak, _ := strings.Cut(string(text), "VmHWM:")
	kb, err := strconv.Atoi(strings.Fields(peak)[0])
	require.NoError(t, err)
	return kb >> 10
}

// operations lists those that end by themselves.
func (h *hostile) operations() (ops []*huma.Operation) {
	for _, p := range h.known.Paths {
		for _, op := range []*huma.Operation{p.Get, p.Post, p.Put, p.Patch, p.Delete} {
			if op != nil && op.OperationID != "watch-instruments" {
				ops = append(ops, op)
			}
		}
	}
	slices.SortFunc(ops, func(a, b *huma.Operation) int { return strings.Compare(a.OperationID, b.OperationID) })
	return ops
}

func (h *hostile) request(t *testing.T, base string, op *huma.Operation) *http.Request {
	t.Helper()
	path, query := op.Path, url.Values{}
	for _, p := range op.Parameters {
		if p.In != "path" && !p.Required && h.IntN(2) == 0 {
			continue
		}
		text := strings.Trim(fmt.Sprint(h.value(p.Schema, 0)), "[]")
		switch p.In {
		case "path":
			path = strings.ReplaceAll(path, "{"+p.Name+"}", url.PathEscape(text))
		case "query":
			query.Add(p.Name, text)
		}
	}
	var body []byte
	if op.RequestBody != nil {
		for kind, media := range op.RequestBody.Content {
			if kind == "application/json" && media.Schema != nil {
				var err error
				body, err = json.Marshal(h.value(media.Schema, 0))
				require.NoError(t, err)
			} else {
				body = []byte(h.text())
			}
		}
	}
	req, err := http.NewRequest(op.Method, base+path+"?"+query.Encode(), bytes.NewReader(body))
	require.NoError(t, err)
	req.Header.Set("Content-Type", "application/json")
	return req
}

// value is one of a schema, or now and then of none.
func (h *hostile) value(s *huma.Schema, depth int) any {
	if s == nil || depth > 6 || h.IntN(25) == 0 {
		return h.anything()
	}
	if s.Ref != "" {
		return h.value(h.known.Components.Schemas.SchemaFromRef(s.Ref), depth)
	}
	if len(s.Enum) > 0 && h.IntN(10) > 0 {
		return s.Enum[h.IntN(len(s.Enum))]
	}
	switch s.Type {
	case "object":
		out := map[string]any{}
		for _, name := range slices.Sorted(maps.Keys(s.Properties)) {
			p := s.Properties[name]
			if slices.Contains(s.Required, name) || h.IntN(2) == 0 {
				out[name] = h.value(p, depth+1)
			}
		}
		return out
	case "array":
		out := make([]any, h.IntN(4))
		for i := range out {
			out[i] = h.value(s.Items, depth+1)
		}
		return out
	case "integer":
		return []int{0, 1, 2, 5, -1, 1 << 31, 1 << 53, -1 << 62}[h.IntN(8)]
	case "number":
		return []float64{0, 0.5, 1, 43.5, -90.9, 1e-300, -1e300, 1e308}[h.IntN(8)]
	case "boolean":
		return h.IntN(2) == 0
	case "string":
		return h.text()
	}
	return h.anything()
}

func (h *hostile) anything() any {
	return []any{nil, true, 1e308, h.text(), []any{}, []any{[]any{[]any{}}}, map[string]any{"a": map[string]any{}}}[h.IntN(7)]
}

func (h *hostile) text() string {
	texts := []string{"", "a", "tree", "eastern-north-america", "Acer rubrum", "bark.texture", "2026-11-17", "9999-12-31", "12 cm", "NaN",
		"1e999", "<b data-evil>x", "'; DROP TABLE tree; --", "../../etc/passwd", "\u202e\u0000x", "%00", strings.Repeat("x", 5000), "🌲",
		newID(), "00000000000000000000000000", "7ZZZZZZZZZZZZZZZZZZZZZZZZZ", "=1+1", "-1", "43.5,-90.9", "0/0", `{"type":"Polygon"}`}
	if h.IntN(3) == 0 {
		return h.ids[h.IntN(len(h.ids))]
	}
	return texts[h.IntN(len(texts))]
}
