package e2e

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"
)

// evil is markup that would show itself wherever it is taken for more than text: an
// element of its own, a script, and a page that leads away.
const evil = `<b data-evil>x</b><img src=/x data-evil onerror="location='/evil'"><meta data-evil http-equiv=refresh content="0;url=/evil">`

// short is as much of it as a tag may hold.
const short = `<b data-evil>x</b><i data-evil></i>`

// send sends what must be taken, and gives the answer.
func (a *app) send(method, path string, body any) string {
	a.t.Helper()
	text, err := json.Marshal(body)
	require.NoError(a.t, err)
	req, err := http.NewRequest(method, a.url(path), bytes.NewReader(text))
	require.NoError(a.t, err)
	req.Header.Set("Content-Type", "application/json")
	res, err := http.DefaultClient.Do(req)
	require.NoError(a.t, err)
	defer res.Body.Close()
	said, err := io.ReadAll(res.Body)
	require.NoError(a.t, err)
	require.Less(a.t, res.StatusCode, 300, "%s %s: %s", method, path, said)
	return string(said)
}

// marked fills a book with markup in every field that takes text.
func marked(t *testing.T, a *app) (tree string) {
	t.Helper()
	id := func() string { return ulid.Make().String() }
	name := func(n int) string { return fmt.Sprint(short, " ", n) }
	tree = id()
	ring := json.RawMessage(`{"type":"Polygon","coordinates":[[[-90.65,43.55],[-90.63,43.55],[-90.63,43.57],[-90.65,43.55]]]}`)
	terrain := json.RawMessage(
		`{"type":"FeatureCollection","features":[{"type":"Feature","properties":{"kind":"` + `<b data-evil>` + `","name":"<b data-evil>"},
		"geometry":{"type":"LineString","coordinates":[[-90.65,43.55],[-90.63,43.56]]}}]}`,
	)
	a.send("PUT", "/api/tracts", map[string]any{"tract": name(1), "remarks": evil, "boundary": ring, "terrain": terrain})
	a.send("PUT", "/api/stands", map[string]any{"tract": name(1), "stand": name(2), "remarks": evil, "boundary": ring})
	visit := id()
	a.send(
		"PUT",
		"/api/visits",
		map[string]any{"id": visit, "tract": name(1), "day": "2026-11-17", "crew": evil, "weather": evil, "snow": "none", "remarks": evil},
	)
	a.send("PUT", "/api/plots", map[string]any{"id": id(), "tract": name(1), "stand": name(2), "name": name(6), "day": "2026-11-17",
		"factor": "2 m2/ha", "stems": []any{}, "remarks": evil, "position": map[string]any{"lon": -90.64, "lat": 43.56}})
	a.send(
		"PUT",
		"/api/lists",
		map[string]any{
			"name":   name(3),
			"region": "eastern-north-america",
			"taxa":   map[string]string{"Acer rubrum": "common", "Tilia americana": "rare"},
		},
	)
	a.send(
		"POST",
		"/api/trees",
		map[string]any{"id": tree, "tag": name(4), "tract": name(1), "stand": name(2), "list": name(3), "by": name(5)},
	)
	add := func(fields map[string]any) string {
		fields["id"], fields["by"] = id(), name(5)
		a.send("POST", "/api/trees/"+tree+"/entries", fields)
		return fields["id"].(string)
	}
	look := add(map[string]any{"kind": "look", "from": "tree", "visit": visit})
	add(map[string]any{"kind": "note", "look": look, "note": evil})
	add(map[string]any{"kind": "note", "note": evil})
	add(map[string]any{"kind": "score", "look": look, "score": map[string]any{"character": "bark.texture", "states": []string{"smooth"}}})
	add(map[string]any{"kind": "score", "look": look, "score": map[string]any{"character": "form.dbh", "typed": "12 in"}})
	add(
		map[string]any{
			"kind": "facts",
			"facts": map[string]any{
				"remarks":  evil,
				"extra":    map[string]any{evil: evil},
				"position": map[string]any{"lon": -90.64, "lat": 43.56},
			},
		},
	)
	add(map[string]any{"kind": "name", "name": map[string]any{"rank": "species", "name": "Acer rubrum", "why": evil}})
	a.send("POST", "/api/trees", map[string]any{"id": id(), "tag": name(6), "tract": name(1), "stand": name(2)})
	return tree
}

// TestMarkupIsTextInFiles: of a book that holds markup in every field nothing is taken for more than text in what is
// made of it. [checkViews] looks at the pages of such a book.
func TestMarkupIsTextInFiles(t *testing.T) {
	t.Parallel()
	a := newApp(t, false)
	marked(t, a)
	for _, path := range []string{"/api/report.html", "/api/worklist/calendar.ics", "/api/export/gpx", "/api/report.pdf"} {
		res, err := http.Get(a.url(path))
		require.NoError(t, err)
		body, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		require.NoError(t, res.Body.Close())
		require.Equal(t, 200, res.StatusCode, path)
		require.NotEmpty(t, body)
		if strings.HasPrefix(res.Header.Get("Content-Type"), "text/html") || strings.HasSuffix(path, "gpx") {
			require.NotContains(t, string(body), "<b data-evil", path)
			require.Contains(t, string(body), "&lt;b data-evil", path)
		}
	}
}
