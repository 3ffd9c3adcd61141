package web_test

import (
	"archive/zip"
	"compress/gzip"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/demo/demotest"
	"palethicket/web"
)

const checkerName, plannerName = "Ansel Brook", "Odile Marsh"

// checked serves the demo forest to its crew, with a lead who plans and a checker who named
// none of its trees.
func checked(t *testing.T) (*httptest.Server, *book.Book) {
	t.Helper()
	b := demotest.New(t)
	for _, m := range []book.NewMember{{Name: plannerName, Role: book.Lead, Password: password},
		{Name: checkerName, Role: book.Observer, Password: password}, {Name: "Marit Sandoval", Role: book.Observer, Password: password}} {
		require.NoError(t, b.AddMember(t.Context(), m))
	}
	s := httptest.NewServer(web.New(b, web.Options{Log: quiet.Log, Guarded: true}).Handler(pages))
	t.Cleanup(s.Close)
	return s, b
}

// call gives the status and the text of an answer.
func call(t *testing.T, s *httptest.Server, cookie *http.Cookie, method, path, body string) (int, string) {
	t.Helper()
	res := answered(t, s, method, path, body, cookie)
	text, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	return res.StatusCode, string(text)
}

func into[T any](t *testing.T, text string) (out T) {
	t.Helper()
	require.NoError(t, json.Unmarshal([]byte(text), &out), text)
	return out
}

const planOf20 = `{"name": "November check", "checker": "` + checkerName + `", "by": "stand", "expected": 0.9, "half": 0.1, "trees": 20, "seed": 7}`

// TestBlind walks every operation there is as the checker, before the check is finished: nothing
// that anybody else entered of any tree comes out of one of them.
func TestBlind(t *testing.T) {
	t.Parallel()
	s, b := checked(t)
	lead := signIn(t, s, plannerName)
	status, text := call(t, s, lead, "POST", "/api/checks", planOf20)
	require.Equal(t, 201, status, text)
	check := into[book.CheckCruise](t, text)
	require.Len(t, check.Plan.Drawn, 20)

	tree := check.Plan.Drawn[0].ID
	secrets := plant(t, b, tree)
	checker := signIn(t, s, checkerName)
	list := into[book.TreeList](t, second(call(t, s, checker, "GET", "/api/trees", "")))
	require.Equal(t, 20, list.Total, "the trees of the plan are all there is")
	for _, line := range list.Trees {
		require.Equal(t, "unscored", line.Status)
	}
	asked := walk(t, s, checker, tree, check.ID, func(op, text string) {
		text = unpacked(t, text)
		for _, secret := range secrets {
			require.NotContains(t, text, secret, "%s tells of it", op)
		}
	})
	t.Logf("%d operations asked", asked)
	require.Greater(t, asked, 100)
	status, _ = call(t, s, checker, "GET", "/api/photos/"+secrets[len(secrets)-1]+"/full", "")
	require.Equal(t, 404, status)
	other, err := b.Trees(t.Context(), book.Query{Sort: "last"}, 1, 0)
	require.NoError(t, err)
	if !slices.ContainsFunc(check.Plan.Drawn, func(d book.CheckTree) bool { return d.ID == other.Trees[0].ID }) {
		status, _ = call(t, s, checker, "GET", "/api/trees/"+other.Trees[0].ID, "")
		require.Equal(t, 404, status, "other trees of the book are not there either")
	}
	_, text = call(t, s, signIn(t, s, "Marit Sandoval"), "GET", "/api/trees/"+tree+"/story", "")
	require.Contains(t, text, secrets[0], "for others all is as it was")
}

func second(_ int, text string) string { return text }

// plant adds a note and a photograph that a checker must not see, and lists what else they must not.
func plant(t *testing.T, b *book.Book, tree string) []string {
	t.Helper()
	secrets := []string{"hollow at the root collar, seen by nobody else", "Wren Halloran", "Tobias Okafor", "Marit Sandoval"}
	_, err := b.AddEntry(t.Context(), tree, &book.Entry{ID: newID(), Kind: "note", Note: secrets[0], By: "Marit Sandoval"})
	require.NoError(t, err)
	changes, err := b.TreeChanges(t.Context(), tree)
	require.NoError(t, err)
	require.Greater(t, len(changes.Entries), 3)
	for _, e := range changes.Entries {
		id := into[struct{ ID string }](t, string(e.Entry)).ID
		if id != tree {
			secrets = append(secrets, id)
		}
	}
	photos, err := b.Trees(t.Context(), book.Query{}, 400, 0)
	require.NoError(t, err)
	for _, line := range photos.Trees {
		if p, err := b.Photos(t.Context(), line.ID); err == nil && len(p) > 0 {
			return append(secrets, p[0].ID)
		}
	}
	return append(secrets, newID())
}

// unpacked is a text as it can be searched: archives and packed books are opened.
func unpacked(t *testing.T, text string) string {
	t.Helper()
	if z, err := zip.NewReader(strings.NewReader(text), int64(len(text))); err == nil {
		for _, f := range z.File {
			r, err := f.Open()
			require.NoError(t, err)
			body, err := io.ReadAll(r)
			require.NoError(t, err)
			text += string(body)
		}
		return text
	}
	if z, err := gzip.NewReader(strings.NewReader(text)); err == nil {
		body, err := io.ReadAll(z)
		require.NoError(t, err)
		return string(body)
	}
	return text
}

// walk asks every operation of the description, filling in what it needs, and gives how many
// there were.
func walk(t *testing.T, s *httptest.Server, who *http.Cookie, tree, check string, look func(op, text string)) (asked int) {
	t.Helper()
	description := web.New(nil, web.Options{Log: quiet.Log}).API(chi.NewRouter()).OpenAPI()
	fill := func(path, name string) string {
		switch {
		case name == "id" && strings.HasPrefix(path, "/api/trees"):
			return tree
		case name == "id" && strings.HasPrefix(path, "/api/checks"):
			return check
		case name == "format" && strings.HasPrefix(path, "/api/export"):
			return "json"
		case name == "a", name == "taxon":
			return "Quercus%20rubra"
		case name == "b":
			return "Acer%20rubrum"
		case name == "lon", name == "lat":
			return "43"
		case name == "text", name == "word":
			return "oak"
		case name == "tract":
			return "Lantern%20Creek%20watershed%20forest"
		}
		return "twig"
	}
	for path, item := range description.Paths {
		for method, op := range map[string]any{"GET": item.Get, "POST": item.Post, "PUT": item.Put, "PATCH": item.Patch, "DELETE": item.Delete} {
			if fmt.Sprint(op) == "<nil>" || path == "/api/session" && method == "DELETE" || strings.HasSuffix(path, "/finish") {
				continue // that would end it
			}
			for _, format := range []string{"json", "csv", "xlsx", "geojson", "gpx", "dwca"} {
				to, query := path, []string{}
				for _, p := range parameters(op) {
					if p.in == "path" {
						to = strings.ReplaceAll(to, "{"+p.name+"}", fill(path, p.name))
					} else if p.in == "query" && p.required {
						query = append(query, p.name+"="+fill(path, p.name))
					}
				}
				if testing.Short() { // keys and cards of a few trees; make nightly asks for a whole region
					query = append(query, few[strings.TrimSuffix(strings.TrimSuffix(path, ".html"), ".pdf")]...)
				}
				exports := strings.HasPrefix(path, "/api/export")
				if exports {
					to = strings.ReplaceAll(path, "{format}", format)
				}
				body := ""
				if method != "GET" && method != "DELETE" {
					body = "{}"
				}
				_, text := call(t, s, who, method, to+"?"+strings.Join(query, "&"), body)
				look(method+" "+to, text)
				if asked++; !exports {
					break
				}
			}
		}
	}
	return asked
}

// few are queries that limit keys and cards to a few trees.
var few = map[string][]string{
	"/api/key":         {"taste=genus", "genus=Juglans"},
	"/api/paper/cards": {"taxon=Quercus%20rubra", "taxon=Quercus%20velutina"},
}

type parameter struct {
	name, in string
	required bool
}

// parameters are those of an operation.
func parameters(op any) (out []parameter) {
	o, ok := op.(*huma.Operation)
	if !ok || o == nil {
		return nil
	}
	for _, p := range o.Parameters {
		out = append(out, parameter{p.Name, p.In, p.Required})
	}
	return out
}

// TestACheckIsWorked plans a check, names half of it as the checker, ends it and reads it.
func TestACheckIsWorked(t *testing.T) {
	t.Parallel()
	s, b := checked(t)
	lead, checker := signIn(t, s, plannerName), signIn(t, s, checkerName)
	check := into[book.CheckCruise](t, second(call(t, s, lead, "POST", "/api/checks", planOf20)))
	status, text := call(t, s, lead, "POST", "/api/checks", planOf20)
	require.Equal(t, 409, status, "one at a time")
	require.Contains(t, text, "goes on")

	for _, way := range []struct{ method, path, body string }{
		{"POST", "/api/tally", `{"id": "` + newID() + `", "tag": "LC-1", "tract": "Lantern Creek watershed forest", "stand": "North cove",
			"route": "bark-first", "room": 1, "code": "", "answers": []}`},
		{"POST", "/api/practice/cards?kind=twig&stand=North+cove", ""},
		{"POST", "/api/practice/cards?kind=twig&stand=North+cove" + strings.Repeat("&", 9000), ""},
		{"GET", "/api/practice/quiz.pdf?kind=twig&region=eastern-north-america&deck=" + newID(), ""},
	} {
		status, text := call(t, s, checker, way.method, way.path, way.body)
		require.Equal(t, 409, status, text)
		require.Contains(t, text, "you are checking")
	}
	status, text = call(t, s, checker, "POST", "/api/practice/cards?kind=twig&stand=North+cove"+strings.Repeat("&", 11_000), "")
	require.GreaterOrEqual(t, status, 400, "more parts than Go reads: %s", text)

	tree := check.Plan.Drawn[0].ID
	before, err := b.View(t.Context(), tree)
	require.NoError(t, err)
	named := before.Names[0].Naming
	look := newID()
	for _, entry := range []string{`"kind": "look", "id": "` + look + `", "from": "tree"`,
		`"kind": "score", "look": "` + look + `", "score": {"character": "bark.texture", "states": ["smooth"], "certainty": "sure"}`} {
		if !strings.Contains(entry, `"id"`) {
			entry = `"id": "` + newID() + `", ` + entry
		}
		status, text := call(t, s, checker, "POST", "/api/trees/"+tree+"/entries", "{"+entry+"}")
		require.Equal(t, 200, status, text)
	}
	for i, d := range check.Plan.Drawn[:10] {
		name := fmt.Sprintf(`{"rank": %q, "name": %q}`, named.Rank, named.Name)
		if i == 0 {
			name = `{"rank": "species", "name": "Prunus serotina"}`
		}
		status, text := call(
			t,
			s,
			checker,
			"POST",
			"/api/trees/"+d.ID+"/entries",
			`{"id": "`+newID()+`", "kind": "name", "name": `+name+`}`,
		)
		require.Equal(t, 200, status, text)
	}
	for path, body := range map[string]string{"/api/trees": `{"id": "` + newID() + `", "tag": "X", "tract": "T", "stand": "S"}`, "/api/checks": planOf20} {
		status, text := call(t, s, checker, "POST", path, body)
		require.Contains(t, []int{403, 409}, status, text)
	}
	aside := `{"id": "` + newID() + `", "kind": "facts", "facts": {"aside": true}}`
	for path, body := range map[string]string{"POST /api/trees/" + tree + "/entries": aside,
		"PUT /api/visits": `{"id": "` + newID() + `", "tract": "T", "day": "2026-11-25", "snow": "none"}`} {
		method, to, _ := strings.Cut(path, " ")
		status, text := call(t, s, checker, method, to, body)
		require.Contains(t, []int{409, 422}, status, "what would not join is refused: %s", text)
	}
	during, err := b.View(t.Context(), tree)
	require.NoError(t, err)
	require.Equal(t, before.Revision, during.Revision, "the tree stands as it did")
	mine := into[book.CheckCruise](t, second(call(t, s, checker, "GET", "/api/checking", "")))
	require.Equal(t, 10, mine.Named)
	require.Equal(t, 409, first(call(t, s, signIn(t, s, "Marit Sandoval"), "POST", "/api/checks/"+check.ID+"/finish", "")))

	status, text = call(t, s, checker, "POST", "/api/checks/"+check.ID+"/finish", "")
	require.Equal(t, 200, status, text)
	after, err := b.View(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, after.Looks, len(before.Looks)+1)
	require.Equal(t, "Prunus serotina", after.Names[0].Name)
	require.Equal(t, checkerName, after.Names[0].By)
	visits, err := b.Visits(t.Context(), check.Plan.Drawn[0].Tract)
	require.NoError(t, err)
	require.True(t, slices.ContainsFunc(visits, func(v book.Visit) bool { return v.ID == check.Plan.Visit && v.Crew == checkerName }))

	results := into[book.CheckResults](t, second(call(t, s, checker, "GET", "/api/checks/"+check.ID+"/results", "")))
	require.Equal(t, 10, results.Named)
	require.Empty(t, results.Refused)
	require.Len(t, results.Trees, 20)
	require.Contains(t, strings.Join(results.Says, " "), "10 of 20")
	require.NotEmpty(t, results.Observers)
	_, table := call(t, s, lead, "GET", "/api/checks/"+check.ID+"/results.csv", "")
	require.Equal(t, 21, strings.Count(table, "\n"))
	_, pdf := call(t, s, lead, "GET", "/api/checks/"+check.ID+"/results.pdf", "")
	require.True(t, strings.HasPrefix(pdf, "%PDF"))
	require.Equal(t, 404, first(call(t, s, checker, "POST", "/api/checks/"+check.ID+"/finish", "")), "it ends once")
	require.Equal(t, 400, into[book.TreeList](t, second(call(t, s, checker, "GET", "/api/trees", ""))).Total, "the book is open again")
}

func first(status int, _ string) int { return status }

// TestPlansRefused: each in a plain word.
func TestPlansRefused(t *testing.T) {
	t.Parallel()
	s, _ := checked(t)
	lead := signIn(t, s, plannerName)
	for what, c := range map[string][2]string{
		"somebody without an account": {`"checker": "Nobody"`, "has no account"},
		"an empty stand":              {`"stand": "Nowhere"`, "no tree there was named by others"},
		"the one who named them all":  {`"half": 0.0`, "half"},
	} {
		body := strings.TrimSuffix(planOf20, "}") + "}"
		key, _, _ := strings.Cut(c[0], ":")
		if at := strings.Index(body, key+":"); at >= 0 {
			end := at + strings.IndexAny(body[at:], ",}")
			body = body[:at] + c[0] + body[end:]
		} else {
			body = strings.TrimSuffix(body, "}") + ", " + c[0] + "}"
		}
		status, text := call(t, s, lead, "POST", "/api/checks", body)
		require.GreaterOrEqual(t, status, 400, what)
		require.Contains(t, text, c[1], what)
	}
	status, text := call(
		t,
		s,
		lead,
		"POST",
		"/api/checks/draw",
		strings.Replace(planOf20, `"trees": 20`, `"trees": 2000, "stand": "Upper slope"`, 1),
	)
	require.Equal(t, 200, status, text)
	require.Contains(t, into[book.CheckPlan](t, text).Says, "all of them are taken")
	status, text = serve(t).send2("POST", "/api/checks", planOf20)
	require.Equal(t, 409, status, text)
	require.Contains(t, text, "blind only where people sign in")
}

// send2 is send with the answer as text.
func (s *server) send2(method, path, body string) (int, string) {
	status, text := s.send(method, path, body)
	return status, string(text)
}

// TestEndedTwiceAtOnce: a check is ended by a double press while its checker's pages ask how far they are and enter names: it
// ends once, nobody waits for ever, and what was acknowledged has joined.
func TestEndedTwiceAtOnce(t *testing.T) {
	t.Parallel()
	s, b := checked(t)
	lead, checker := signIn(t, s, plannerName), signIn(t, s, checkerName)
	check := into[book.CheckCruise](t, second(call(t, s, lead, "POST", "/api/checks", planOf20)))
	var wg sync.WaitGroup
	var ended, named atomic.Int64
	for i := range 4 {
		wg.Go(func() {
			for range 20 {
				call(t, s, checker, "GET", "/api/checking", "")
			}
		})
		wg.Go(func() {
			for _, d := range check.Plan.Drawn[5*i : 5*i+5] {
				body := `{"id": "` + newID() + `", "kind": "name", "name": {"rank": "genus", "name": "Quercus"}}`
				if status, _ := call(t, s, checker, "POST", "/api/trees/"+d.ID+"/entries", body); status == 200 {
					named.Add(1)
				}
			}
		})
		wg.Go(func() {
			if status, _ := call(t, s, []*http.Cookie{lead, checker}[i%2], "POST", "/api/checks/"+check.ID+"/finish", ""); status == 200 {
				ended.Add(1)
			}
		})
	}
	wg.Wait()
	require.EqualValues(t, 1, ended.Load())
	results, err := b.CheckResults(t.Context(), check.ID)
	require.NoError(t, err)
	joined := 0
	for _, d := range check.Plan.Drawn {
		v, err := b.View(t.Context(), d.ID)
		require.NoError(t, err)
		if slices.ContainsFunc(v.Names, func(n book.NameView) bool { return n.By == checkerName }) {
			joined++
		}
	}
	require.EqualValues(t, named.Load(), joined, "what was acknowledged is in the book, by the check or after it")
	require.LessOrEqual(t, results.Named, joined)
}
