package web_test

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
)

func get[T any](t *testing.T, s *server, path string) (out T) {
	t.Helper()
	status, text := s.send("GET", path, "")
	require.Equal(t, 200, status, string(text))
	require.NoError(t, json.Unmarshal(text, &out))
	return out
}

func TestFloraPages(t *testing.T) {
	t.Parallel()
	s := serve(t)
	lines := get[[]book.TaxonLine](t, s, "/api/flora/taxa?region=british-isles&show=bud.color:near-black&show=twig.arrangement:opposite")
	require.Equal(t, "Fraxinus excelsior", lines[0].Name)
	require.Equal(t, "ash", lines[0].English)
	page := get[book.TaxonPage](t, s, "/api/flora/taxa/"+url.PathEscape("Platanus ×hispanica"))
	require.Equal(t, "London plane", page.English[0])
	require.Len(t, get[book.CharacterPage](t, s, "/api/flora/characters/bud.shape").States, 8)
	require.Contains(t, get[book.Found](t, s, "/api/flora/names?q=sycamore").Ambiguous, "means 2 trees")
	for path, want := range map[string]int{
		"/api/flora/taxa/Quercus%20nulla":      404,
		"/api/flora/characters/bark.nothing":   404,
		"/api/flora/taxa?show=bark.color":      422,
		"/api/flora/taxa?show=bark.color:blue": 422,
		"/api/flora/taxa?region=nowhere":       422,
		"/api/flora/names":                     422,
	} {
		status, text := s.send("GET", path, "")
		require.Equal(t, want, status, "%s: %s", path, text)
	}
}

// TestPlates: every kind of drawing comes as the picture it is, for good where its address
// holds the digest of all it is made from; what there is none of is said.
func TestPlates(t *testing.T) {
	t.Parallel()
	s := serve(t)
	digest := get[book.Vocabulary](t, s, "/api/vocabulary").Plates
	ask := func(path string) (*http.Response, string) {
		res, err := http.Get(s.URL + path)
		require.NoError(t, err)
		defer res.Body.Close()
		body, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		return res, string(body)
	}
	for what, begins := range map[string]string{"twig": "<svg", "outline": "<svg", "fruit": "<svg", "leaf": "<svg", "bark": "\x89PNG"} {
		res, body := ask("/api/plates/" + digest + "/" + what + "/Platanus%20%C3%97hispanica?region=british-isles&age=old&zone=upper&odd=3")
		require.Equal(t, 200, res.StatusCode, body)
		require.True(t, strings.HasPrefix(body, begins), what)
		require.Contains(t, res.Header.Get("Cache-Control"), "immutable")
		if begins == "<svg" {
			require.Equal(t, "image/svg+xml", res.Header.Get("Content-Type"))
			require.Contains(t, body, "of London plane:")
		}
	}
	res, usual := ask("/api/plates/before/twig/Quercus%20alba")
	require.Equal(t, "no-cache", res.Header.Get("Cache-Control"), "another may come at this address")
	_, marked := ask("/api/plates/before/twig/Quercus%20alba?theme=dark&mark=bud.length")
	require.NotEqual(t, usual, marked)
	require.Contains(t, marked, `marked"`)
	res, _ = ask("/api/plates/" + digest + "/states/bark.texture/mesh-ridges")
	require.Equal(t, "image/png", res.Header.Get("Content-Type"))
	for path, want := range map[string]int{"twig/Quercus%20nulla": 404, "root/Quercus%20alba": 422, "twig/Quercus%20alba?age=ancient": 422,
		"twig/Quercus%20alba?theme=neon": 422, "states/form.dbh/thick": 404, "states/%3Cb%3E/x": 404} {
		res, body := ask("/api/plates/" + digest + "/" + path)
		require.Equal(t, want, res.StatusCode, "%s: %s", path, body)
	}
}

func TestOwnLists(t *testing.T) {
	t.Parallel()
	s := serve(t)
	put := func(body string) (int, []byte) { return s.send("PUT", "/api/lists", body) }
	table, err := json.Marshal("taxon,abundance\nAcer saccharum,abundant\nFraxinus nigra,rare\n")
	require.NoError(t, err)
	status, text := put(fmt.Sprintf(`{"name": " pump house ", "region": "eastern-north-america", "table": %s}`, table))
	require.Equal(t, 200, status, string(text))
	require.Contains(
		t,
		get[book.Vocabulary](t, s, "/api/vocabulary").Amongs,
		book.AmongTerm{Among: book.Among{Region: "eastern-north-america", List: "pump house"}, Words: "pump house"},
	)

	id := ulid.Make().String()
	status, text = s.send(
		"POST",
		"/api/trees",
		fmt.Sprintf(`{"id": %q, "tag": "P-1", "tract": "Lantern Creek", "stand": "Avenue", "list": "pump house"}`, id),
	)
	require.Equal(t, 201, status, string(text))
	v := get[book.TreeView](t, s, "/api/trees/"+id)
	require.Len(t, v.Result.Ranking, 3, "two trees and the unlisted")
	status, text = s.send(
		"POST",
		"/api/trees/"+id+"/entries",
		fmt.Sprintf(`{"id": %q, "kind": "facts", "facts": {"among": {"region": "british-isles"}}}`, ulid.Make()),
	)
	require.Equal(t, 200, status, string(text))
	require.Greater(t, len(get[book.TreeView](t, s, "/api/trees/"+id).Result.Ranking), 40, "ranked among others from now on")
	status, text = s.send(
		"POST",
		"/api/trees/"+id+"/entries",
		fmt.Sprintf(`{"id": %q, "kind": "facts", "facts": {"among": {"region": "nowhere"}}}`, ulid.Make()),
	)
	require.Equal(t, 422, status, string(text))

	status, text = s.send("DELETE", "/api/lists/pump%20house", "")
	require.Equal(t, 409, status, string(text))
	require.Contains(t, string(text), "trees are ranked among this list")
	status, _ = put(`{"name": "spare", "region": "british-isles", "taxa": {"Quercus robur": "common", "Quercus petraea": "rare"}}`)
	require.Equal(t, 200, status)
	require.Len(t, get[[]book.List](t, s, "/api/lists"), 2)
	status, _ = s.send("DELETE", "/api/lists/spare", "")
	require.Equal(t, 204, status)
	status, _ = s.send("DELETE", "/api/lists/spare", "")
	require.Equal(t, 404, status)

	status, text = s.send("GET", "/api/lists/pump%20house/csv", "")
	require.Equal(t, 200, status)
	require.Equal(t, "taxon,abundance,english\nAcer saccharum,abundant,sugar maple\nFraxinus nigra,rare,black ash\n", string(text))
	status, text = s.send("GET", "/api/lists/british-isles/yaml", "")
	require.Equal(t, 200, status)
	require.Contains(t, string(text), "Quercus robur: abundant")
	for body, says := range map[string]string{
		`{"name": "a", "region": "british-isles", "taxa": {"Quercus robus": "common", "Quercus petraea": "rare"}}`: `did you mean \"Quercus robur\"?`,
		`{"name": "a", "region": "british-isles", "table": "tree,abundance"}`:                                      `no column \"taxon\"`,
		`{"name": "a", "region": "nowhere", "taxa": {"Quercus robur": "common", "Quercus petraea": "rare"}}`:       `unknown region`,
	} {
		status, text := put(body)
		require.Equal(t, 422, status, string(text))
		require.Contains(t, string(text), says)
	}
	status, text = put(`{"name": "british-isles", "region": "british-isles", "taxa": {"Quercus robur": "common", "Quercus petraea": "rare"}}`)
	require.Equal(t, 422, status, string(text))
}
