package web_test

import (
	"encoding/json"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net/http/httptest"
	"reflect"
	"strings"
	"testing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book/booktest"
	"palethicket/web"
)

// unknownKeys is an object of so many keys that nothing asked for.
func unknownKeys(n int) string {
	var out strings.Builder
	for i := range n {
		fmt.Fprintf(&out, `, "k%d": "%s"`, i, strings.Repeat("x", 40))
	}
	return `{"name": "Wren Halloran", "password": "` + password + `"` + out.String() + `}`
}

// TestSmallBodiesHaveSmallAnswers: what is wrong with a body is said in few words, to nobody in particular too.
func TestSmallBodiesHaveSmallAnswers(t *testing.T) {
	t.Parallel()
	s := guarded(t)
	for name, body := range map[string]string{
		"many unknown keys":      unknownKeys(900),
		"too many keys":          unknownKeys(16_000),
		"a long key":             `{"` + strings.Repeat("k", 500_000) + `": 1}`,
		"a long value":           `{"name": ["` + strings.Repeat("k", 500_000) + `"]}`,
		"nested":                 `{"name": ` + strings.Repeat("[", 5000) + strings.Repeat("]", 5000) + `}`,
		"more than a body holds": `{"name": "` + strings.Repeat("k", 2<<20) + `"}`,
	} {
		res := answered(t, s, "POST", "/api/session", body, nil)
		text, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		require.NoError(t, res.Body.Close())
		require.Contains(t, []int{400, 413, 422}, res.StatusCode, name)
		require.Less(t, len(text), 10_000, name)
		var p problem
		require.NoError(t, json.Unmarshal(text, &p), name)
		require.NotEmpty(t, p.Detail, name)
	}
}

// TestTheLibraryStillEchoes: huma itself echoes all of a body with each error. When a later
// version does not, body.go can go.
func TestTheLibraryStillEchoes(t *testing.T) {
	t.Parallel()
	detail := &huma.ErrorDetail{Message: "unexpected property", Location: "body.k", Value: map[string]any{"k": 1}}
	kept, err := json.Marshal(huma.NewError(422, "validation failed", detail))
	require.NoError(t, err)
	require.NotContains(t, string(kept), "value", "our problems hold no values")

	res := new(huma.ValidateResult)
	known := huma.NewMapRegistry("#/", huma.DefaultSchemaNamer)
	schema := huma.SchemaFromType(known, reflect.TypeFor[struct{ Name string }]())
	huma.Validate(known, schema, huma.NewPathBuffer(nil, 0), huma.ModeWriteToServer, map[string]any{"a": 1.0, "b": 2.0}, res)
	var one *huma.ErrorDetail
	require.ErrorAs(t, res.Errors[0], &one)
	require.NotNil(t, one.Value, "the library echoes values no longer: is body.go still needed?")
}

// TestAPanicHasABody: what nobody foresaw is answered with words, and an id that stands in the log.
func TestAPanicHasABody(t *testing.T) {
	t.Parallel()
	var log strings.Builder
	s := httptest.NewServer(web.New(booktest.New(t), web.Options{Log: slog.New(slog.NewTextHandler(&log, nil))}).Handler(panicking{}))
	t.Cleanup(s.Close)
	res := answered(t, s, "GET", "/anything", "", nil)
	defer res.Body.Close()
	require.Equal(t, 500, res.StatusCode)
	var p struct{ Detail, Instance string }
	require.NoError(t, json.NewDecoder(res.Body).Decode(&p))
	require.Contains(t, p.Detail, "went wrong here")
	require.Contains(t, log.String(), strings.TrimPrefix(p.Instance, "urn:ulid:"))
}

// panicking are pages that cannot be read.
type panicking struct{}

func (panicking) Open(string) (fs.File, error) { panic("no pages") }
