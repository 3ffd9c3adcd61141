package web_test

import (
	"encoding/json"
	"errors"
	"flag"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"reflect"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/go-chi/chi/v5"
	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/demo/demotest"
	"palethicket/web"
)

// quiet is a server that logs nothing.
var quiet = web.Options{
	Log: slog.New(slog.DiscardHandler),
}

var pages = fstest.MapFS{"index.html": {Data: []byte("<p>the interface")}, "assets/a.js": {Data: []byte("1")}}

type server struct {
	t *testing.T
	*httptest.Server
	book *book.Book
}

func TestMain(m *testing.M) {
	flag.Parse()
	if testing.Short() {
		book.HashLightly() // make nightly has the memory of the real one
	}
	demotest.Main(m)
}

func serve(t *testing.T) *server {
	t.Helper()
	return serving(t, booktest.New(t))
}

func serving(t *testing.T, b *book.Book) *server {
	t.Helper()
	return servingWith(t, b, quiet)
}

func servingWith(t *testing.T, b *book.Book, opt web.Options) *server {
	t.Helper()
	s := httptest.NewServer(web.New(b, opt).Handler(pages))
	t.Cleanup(s.Close)
	return &server{t, s, b}
}

// problem is what RFC 9457 answers carry.
type problem struct {
	Status int
	Detail string
	Errors []struct{ Location, Message string }
}

func (s *server) send(method, path, body string) (int, []byte) {
	s.t.Helper()
	req, err := http.NewRequest(method, s.URL+path, strings.NewReader(body))
	require.NoError(s.t, err)
	req.Header.Set("Content-Type", "application/json")
	res, err := http.DefaultClient.Do(req)
	require.NoError(s.t, err)
	defer res.Body.Close()
	text, err := io.ReadAll(res.Body)
	require.NoError(s.t, err)
	if res.StatusCode >= 400 && strings.HasPrefix(path, "/api/trees") {
		require.Equal(s.t, "application/problem+json", res.Header.Get("Content-Type"))
	}
	return res.StatusCode, text
}

func (s *server) view(status int, text []byte) book.TreeView {
	s.t.Helper()
	require.Less(s.t, status, 300, string(text))
	var v book.TreeView
	require.NoError(s.t, json.Unmarshal(text, &v))
	return v
}

func newID() string { return ulid.Make().String() }

func (s *server) newTree(tag string) string {
	s.t.Helper()
	id := newID()
	s.view(
		s.send(
			"POST",
			"/api/trees",
			`{"id": "`+id+`", "tag": "`+tag+`", "tract": "Lantern Creek watershed forest", "stand": "Upper slope"}`,
		),
	)
	return id
}

func (s *server) entry(tree, fields string) (int, []byte) {
	s.t.Helper()
	return s.send("POST", "/api/trees/"+tree+"/entries", `{"id": "`+newID()+`", `+fields+`}`)
}

func TestScoreAndName(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tree := s.newTree("LC-1")
	v := s.view(s.entry(tree, `"kind": "look", "from": "tree"`))
	look := v.Looks[0].ID
	v = s.view(
		s.entry(
			tree,
			`"kind": "score", "look": "`+look+`", "score": {"character": "bark.texture", "states": ["warty-ridges"], "certainty": "sure"}`,
		),
	)
	require.Equal(t, "Celtis occidentalis", v.Result.Ranking[0].Taxon)
	score := v.Looks[0].Scores[0].Entry
	v = s.view(s.entry(tree, `"kind": "name", "by": "Wren Halloran", "name": {"rank": "genus", "name": "Celtis", "why": "warts"}`))
	require.Equal(t, "Celtis occidentalis", v.Names[0].Leader)
	genus := 0.0
	for _, r := range v.Result.Ranking {
		if strings.HasPrefix(r.Taxon, "Celtis ") {
			genus += r.Posterior
		}
	}
	require.InDelta(t, genus, v.Names[0].Posterior, 1e-12, "how it stood then")
	before := v.Names[0]
	v = s.view(s.entry(tree, `"kind": "withdraw", "entry": "`+score+`"`))
	require.Empty(t, v.Looks[0].Scores)
	require.Equal(t, before, v.Names[0], "what stood then stays as it was")
	v = s.view(s.entry(tree, `"kind": "facts", "facts": {"snow": "deep", "out_of_reach": ["hand"]}`))
	require.Equal(t, "deep", v.Facts.Snow)
	v = s.view(s.entry(tree, `"kind": "note", "look": "`+look+`", "note": "north side"`))
	require.Equal(t, "north side", v.Looks[0].Note)
	v = s.view(s.send("GET", "/api/trees/"+tree, ""))
	require.Equal(t, "north side", v.Looks[0].Note)
}

// TestUnchangedTree: who shows a tree as it is gets nothing to show again.
func TestUnchangedTree(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tree := s.newTree("LC-1")
	ask := func(shown string) (int, string) {
		req, err := http.NewRequest("GET", s.URL+"/api/trees/"+tree, nil)
		require.NoError(t, err)
		req.Header.Set("If-None-Match", shown)
		res, err := http.DefaultClient.Do(req)
		require.NoError(t, err)
		body, err := io.ReadAll(res.Body)
		require.NoError(t, errors.Join(err, res.Body.Close()))
		if res.StatusCode == http.StatusNotModified {
			require.Empty(t, body)
		}
		return res.StatusCode, res.Header.Get("ETag")
	}
	status, shows := ask(`"something else"`)
	require.Equal(t, 200, status)
	status, _ = ask(shows)
	require.Equal(t, 304, status)
	s.view(s.entry(tree, `"kind": "look", "from": "tree"`))
	status, now := ask(shows)
	require.Equal(t, 200, status)
	require.NotEqual(t, shows, now)
	status, _ = ask(now)
	require.Equal(t, 304, status)
}

func TestSameEntryTwice(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tree := s.newTree("LC-1")
	body := `{"id": "` + newID() + `", "kind": "name", "name": {"rank": "genus", "name": "Acer"}}`
	for range 2 {
		v := s.view(s.send("POST", "/api/trees/"+tree+"/entries", body))
		require.Len(t, v.Names, 1)
	}
	status, _ := s.send("POST", "/api/trees/"+tree+"/entries", strings.Replace(body, "Acer", "Ulmus", 1))
	require.Equal(t, http.StatusConflict, status)
}

// TestRefused sends what cannot be kept: each answer names the field, and the
// book is as it was.
func TestRefused(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tree := s.newTree("LC-1")
	look := s.view(s.entry(tree, `"kind": "look", "from": "tree"`)).Looks[0].ID
	score := func(fields string) string {
		return `"kind": "score", "look": "` + look + `", "score": {` + fields + `}`
	}
	before := get[book.Story](t, s, "/api/trees/"+tree+"/story")
	for _, c := range []struct{ fields, location, says string }{
		{score(`"character": "bud.lenght", "value": 3`), "body.score.character", `did you mean "bud.length"?`},
		{score(`"character": "bud.coat", "states": ["dowy"]`), "body.score.states[0]", `did you mean "downy"?`},
		{score(`"character": "bud.length", "value": -3`), "body.score.value", "want 0.01"},
		{score(`"character": "twig.arrangement", "pairs": 7, "nodes": 4`), "body.score.pairs", "7 pairs among 4 nodes"},
		{score(`"character": "fruit.hanging", "seen": true, "visibility": "dim"`), "body.score.visibility", "use one of"},
		{score(`"character": "bud.length", "value": "long"`), "body.score.value", "expected number"},
		{`"kind": "score", "look": "` + newID() + `", "score": {"character": "bud.coat", "states": ["bare"]}`, "body.look", "no such look"},
		{`"kind": "score", "look": "` + look + `"`, "body.score", "needs the score"},
		{`"kind": "look", "from": "treetop"`, "body.from", "use one of"},
		{`"kind": "facts", "facts": {"age": "ancient"}`, "body.facts.age", "use one of"},
		{`"kind": "withdraw", "entry": "` + newID() + `"`, "body.entry", "no such entry"},
		{`"kind": "name", "name": {"rank": "species", "name": "Acer rubum"}`, "body.name.name", `did you mean "Acer rubrum"?`},
		{`"kind": "name", "name": {"rank": "kingdom", "name": "Plantae"}`, "body.name.rank", "expected value to be one of"},
		{`"kind": "note", "note": "` + strings.Repeat("x", 2001) + `"`, "body.note", "<= 2000"},
		{`"kind": "guess"`, "body.kind", "expected value to be one of"},
		{`"kind": "note", "colour": "red"`, "body.colour", "unexpected property"},
	} {
		status, text := s.entry(tree, c.fields)
		require.Equal(t, http.StatusUnprocessableEntity, status, c.fields)
		var p problem
		require.NoError(t, json.Unmarshal(text, &p))
		require.NotEmpty(t, p.Errors, string(text))
		require.Equal(t, c.location, p.Errors[0].Location)
		require.Contains(t, p.Errors[0].Message, c.says)
	}
	status, _ := s.send("POST", "/api/trees/"+tree+"/entries", `{"id": `)
	require.Equal(t, http.StatusBadRequest, status)
	status, _ = s.send("POST", "/api/trees/"+newID()+"/entries", `{"id": "`+newID()+`", "kind": "note"}`)
	require.Equal(t, http.StatusNotFound, status)
	require.Equal(t, before, get[book.Story](t, s, "/api/trees/"+tree+"/story"), "nothing was stored")
}

func TestNewTreeRefused(t *testing.T) {
	t.Parallel()
	s := serve(t)
	s.newTree("LC-1")
	for _, c := range []struct {
		body, location string
		status         int
	}{
		{`{"id": "short", "tag": "LC-2", "tract": "a", "stand": "b"}`, "body.id", 422},
		{`{"id": "` + strings.Repeat("!", 26) + `", "tag": "LC-2", "tract": "a", "stand": "b"}`, "body.id", 422},
		{`{"id": "` + newID() + `", "tag": "  ", "tract": "a", "stand": "b"}`, "body.tag", 422},
		{`{"id": "` + newID() + `", "tag": "LC-2", "tract": "a"}`, "body", 422},
		{`{"id": "` + newID() + `", "tag": "` + strings.Repeat("9", 41) + `", "tract": "a", "stand": "b"}`, "body.tag", 422},
		{`{"id": "` + newID() + `", "tag": "LC-2", "tract": "a", "stand": "b", "region": "the moon"}`, "body.region", 422},
		{`{"id": "` + newID() + `", "tag": "LC-2", "tract": "a", "stand": "b", "list": "ours"}`, "body.list", 422},
		{`{"id": "` + newID() + `", "tag": "LC-1", "tract": "Lantern Creek watershed forest", "stand": "b", "new": true}`, "body.tag", 409},
	} {
		status, text := s.send("POST", "/api/trees", c.body)
		require.Equal(t, c.status, status, string(text))
		var p problem
		require.NoError(t, json.Unmarshal(text, &p))
		require.Equal(t, c.location, p.Errors[0].Location, string(text))
	}
	require.Equal(t, 1, get[book.TreeList](t, s, "/api/trees").Total)
}

func TestPages(t *testing.T) {
	t.Parallel()
	s := serve(t)
	for path, shows := range map[string]string{"/": "the interface", "/trees/x": "the interface", "/assets/a.js": "1"} {
		status, text := s.send("GET", path, "")
		require.Equal(t, 200, status)
		require.Contains(t, string(text), shows)
	}
	status, _ := s.send("GET", "/api/nothing", "")
	require.Equal(t, 404, status)
}

// TestDescriptionIsCurrent holds the committed OpenAPI, from which the
// interface's types are made, against the one the program gives.
func TestDescriptionIsCurrent(t *testing.T) {
	t.Parallel()
	now, err := json.Marshal(web.New(nil, quiet).API(chi.NewRouter()).OpenAPI())
	require.NoError(t, err)
	kept, err := os.ReadFile("../ui/openapi.json")
	require.NoError(t, err)
	sameAsKept := func() bool { // said in a line: both are long
		var a, b any
		require.NoError(t, json.Unmarshal(now, &a))
		require.NoError(t, json.Unmarshal(kept, &b))
		return reflect.DeepEqual(a, b)
	}
	require.True(t, sameAsKept(), "ui/openapi.json is out of date: run make generate")
}
