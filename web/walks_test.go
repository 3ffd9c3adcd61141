package web_test

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
)

// TestWalk goes a walk on the real desk: until it is ended nothing that the page is told names what a
// tree is; its trees are counted nowhere; then the account says all.
func TestWalk(t *testing.T) {
	t.Parallel()
	s := forest(t)
	before := get[book.TreeList](t, s, "/api/trees").Total
	status, text := s.send2(
		"POST",
		"/api/practice/walks?by=Ilse",
		`{"tract": "Lantern Creek watershed forest", "stand": "North cove", "trees": 6, "snow": "none", "odd": true, "region": "eastern-north-america"}`,
	)
	require.Equal(t, 201, status, text)
	walk := into[book.PracticeWalk](t, text)
	require.Len(t, walk.Trees, 6)
	path := "/api/practice/walks/" + walk.ID
	taxa := get[[]book.TaxonLine](t, s, "/api/flora/taxa")
	hidden := func(what, text string) {
		for _, x := range taxa {
			require.NotContains(t, text, x.Name, what)
		}
	}
	hidden("a walk that is begun", text)
	status, text = s.send2("GET", path+"/account?by=Ilse", "")
	require.Equal(t, 409, status, "it goes on")
	hidden("its account", text)

	bare := get[book.TreeView](t, s, "/api/trees/"+walk.Trees[0].ID)
	require.Equal(t, walk.ID, bare.Walk)
	for _, tree := range walk.Trees {
		v := get[book.TreeView](t, s, "/api/trees/"+tree.ID)
		if v.Facts.Foliage == bare.Facts.Foliage && v.Facts.Age == bare.Facts.Age && fmt.Sprint(v.Facts.Beyond) == fmt.Sprint(bare.Facts.Beyond) {
			require.Equal(t, bare.Result.Ranking, v.Result.Ranking, "before a look every tree stands as every other")
		}
		for _, part := range tree.Parts {
			status, text = s.send2("POST", fmt.Sprintf("%s/trees/%d/parts/%s?by=Ilse", path, tree.N, part.ID), "")
			if part.Not != "" {
				require.Equal(t, 422, status)
				continue
			}
			require.Equal(t, 200, status, text)
			hidden("after a look", text)
			status, text = s.send2("GET", fmt.Sprintf("%s/trees/%d/parts/%s?by=Ilse", path, tree.N, part.ID), "")
			require.Contains(t, []int{200, 404}, status)
			hidden("a drawing", text)
		}
	}
	looked := get[book.PracticeWalk](t, s, path+"?by=Ilse")
	require.Positive(t, looked.Trees[0].Seconds)
	again := get[book.PracticeWalk](t, s, path+"?by=Ilse")
	require.Equal(t, looked.Trees[0].Seconds, again.Trees[0].Seconds, "a look is paid once")

	id := newID()
	tree := walk.Trees[0].ID
	for _, e := range []string{`{"id": "` + id + `", "kind": "look", "from": "tree"}`,
		`{"id": "` + newID() + `", "kind": "score", "look": "` + id + `", "score": {"character": "bark.texture", "states": ["papery-curls"]}}`,
		`{"id": "` + newID() + `", "kind": "name", "name": {"rank": "species", "name": "Betula papyrifera"}}`} {
		status, text = s.send2("POST", "/api/trees/"+tree+"/entries", e)
		require.Equal(t, 200, status, text)
	}
	require.Equal(t, before, get[book.TreeList](t, s, "/api/trees").Total, "counted nowhere")
	status, _ = s.send2("GET", path+"?by=Wren", "")
	require.Equal(t, 404, status, "another's")

	status, text = s.send2("POST", path+"/end?by=Ilse", "")
	require.Equal(t, 204, status, text)
	account := get[book.WalkAccount](t, s, path+"/account?by=Ilse")
	require.Len(t, account.Trees, 6)
	require.NotEmpty(t, account.Trees[0].Taxon)
	require.Equal(t, "paper birch", account.Trees[0].Named)
	require.Contains(t, []string{"wrong", "right", "too far"}, account.Trees[0].Verdict)
	require.Equal(t, "not known", account.Trees[1].Verdict)
	require.Positive(t, account.Best)
	require.Less(t, account.Best, account.Seconds)
	for _, status := range []int{first(s.send2("POST", path+"/end?by=Ilse", "")),
		first(s.send2("POST", path+"/trees/1/parts/bark?by=Ilse", ""))} {
		require.Equal(t, 409, status, "it is ended")
	}
	status, text = s.send2(
		"POST",
		"/api/practice/walks",
		`{"tract": "Lantern Creek watershed forest", "stand": "Nowhere", "trees": 6, "snow": "none", "odd": false, "region": "eastern-north-america"}`,
	)
	require.Equal(t, 409, status)
	require.Contains(t, text, "nothing grows in that stand")
}

// TestManyWalks: thirty people begin a walk each. A walk's book takes memory while it is open, so
// only a few are at once; each is still answered for.
func TestManyWalks(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	s := serving(t, booktest.At(t, filepath.Join(folder, "book.db")))
	var trees []string
	for i := range 30 {
		status, text := s.send("POST", fmt.Sprintf("/api/practice/walks?by=walker%d", i), `{"region": "eastern-north-america", "trees": 5, "snow": "none", "odd": false}`)
		require.Equal(t, 201, status, string(text))
		var w book.PracticeWalk
		require.NoError(t, json.Unmarshal(text, &w))
		trees = append(trees, w.Trees[0].ID)
	}
	for _, id := range trees {
		status, text := s.send("GET", "/api/trees/"+id, "")
		require.Equal(t, 200, status, string(text))
	}
	require.LessOrEqual(t, len(openWalks(t, folder)), 4)
}

// openWalks are the files of walks' books that the program holds open, as Linux lists them.
func openWalks(t *testing.T, folder string) map[string]bool {
	t.Helper()
	held, err := os.ReadDir("/proc/self/fd")
	if err != nil {
		t.Skip("only Linux lists open files")
	}
	open := map[string]bool{}
	for _, f := range held {
		path, _ := os.Readlink("/proc/self/fd/" + f.Name()) // it may be closed by now
		if strings.HasPrefix(path, folder) && strings.Contains(path, "walks/") && strings.HasSuffix(path, ".db") {
			open[path] = true
		}
	}
	return open
}
