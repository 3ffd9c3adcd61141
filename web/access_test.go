package web_test

import (
	"bufio"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/go-chi/chi/v5"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/tree/logbook"
	"palethicket/instrument"
	"palethicket/web"
)

// TestAccessTable holds docs/access.md to the operations and the kinds of entries.
// PT_WRITE=1 writes it.
func TestAccessTable(t *testing.T) {
	const path = "../docs/access.md"
	var out strings.Builder
	out.WriteString(`# Who may do what

This page is generated (` + "`make generate`" + `) and checked by a test.
On one's own machine nobody signs in, and everybody may do everything.

## Entries

Every entry passes the same check, whatever way it comes: from a page, a device, a keyed sheet or a file (` + "`book/author.go`" + `).

| kind | least role |
| --- | --- |
`)
	ofPlaces := []string{string(logbook.KindVisit), string(logbook.KindPlot), string(logbook.KindLand), string(logbook.KindList)}
	for _, kind := range append(slices.Clone(logbook.Kinds), ofPlaces...) {
		fmt.Fprintf(&out, "| %s | %s |\n", kind, book.RoleFor(logbook.Kind(kind)))
	}
	out.WriteString(`
An undoing is allowed to whoever made the entry that it undoes. Nobody undoes a tree's start.

## Operations

| operation | least role | while checking others' names | with a device's token | on a device |
| --- | --- | --- | --- | --- |
`)
	for _, line := range web.New(nil, web.Options{}).Access(chi.NewRouter()) {
		fmt.Fprintf(&out, "| %s |\n", strings.Join(line, " | "))
	}
	if os.Getenv("PT_WRITE") != "" {
		require.NoError(t, os.WriteFile(path, []byte(out.String()), 0o644))
	}
	written, err := os.ReadFile(path)
	require.NoError(t, err)
	require.Equal(t, string(written), out.String(), "run make generate")
}

// door is a way by which entries come in. It answers whether the entry was taken.
type door func(t *testing.T, tree string, e logbook.Entry) bool

// entriesOf has an entry of every kind, by somebody, about a tree or a place.
func entriesOf(by, look, own string) []logbook.Entry {
	remarks := "leans"
	e := func(kind logbook.Kind, fill func(*logbook.Entry)) logbook.Entry {
		e := logbook.Entry{ID: newID(), Kind: kind, By: by}
		fill(&e)
		return e
	}
	const tract = "Lantern Creek watershed forest"
	boundary := []byte(`{"type":"Polygon","coordinates":[[[-90.9,43.5],[-90.8,43.5],[-90.8,43.6],[-90.9,43.5]]]}`)
	return []logbook.Entry{
		e(logbook.KindMove, func(e *logbook.Entry) { e.Move = &logbook.Place{Tag: newID(), Tract: tract, Stand: "Upper slope"} }),
		e(logbook.KindFacts, func(e *logbook.Entry) { e.Facts = &logbook.SetFacts{Remarks: &remarks} }),
		e(logbook.KindLook, func(e *logbook.Entry) { e.From = "tree" }),
		e(logbook.KindScore, func(e *logbook.Entry) {
			e.Look = look
			require.NoError(nil, json.Unmarshal([]byte(`{"character": "bark.texture", "states": ["smooth"]}`), &e.Score))
		}),
		e(logbook.KindPhoto, func(e *logbook.Entry) {
			e.Photo = &logbook.Photo{Digest: strings.Repeat("a", 64), Kind: "image/png"}
		}),
		e(logbook.KindName, func(e *logbook.Entry) { e.Name = &logbook.Naming{Rank: "genus", Name: "Acer"} }),
		e(logbook.KindNote, func(e *logbook.Entry) { e.Note = "x" }),
		e(logbook.KindUndo, func(e *logbook.Entry) { e.Entry = own }),
		e(logbook.KindVisit, func(e *logbook.Entry) { e.Walk = &logbook.Visit{ID: newID(), Tract: tract, Day: "2026-11-17"} }),
		e(logbook.KindLand, func(e *logbook.Entry) { e.Land = &logbook.Land{Tract: tract, Boundary: boundary} }),
		e(logbook.KindList, func(e *logbook.Entry) { e.List = &logbook.List{Name: newID(), Dropped: true} }),
	}
}

// TestEveryEntryByEveryRole posts an entry of each kind by each role through the page, the
// door of devices with a session, and the same with a token. All three go by one rule.
func TestEveryEntryByEveryRole(t *testing.T) {
	t.Parallel()
	s := guarded(t)
	lead := signIn(t, s, "Wren Halloran")
	tree := newID()
	require.Equal(t, 201, ask(t, s, "POST", "/api/trees", `{"id": "`+tree+`", "tag": "`+tree+
		`", "tract": "Lantern Creek watershed forest", "stand": "Upper slope"}`, lead).StatusCode)
	look := newID()
	require.Equal(t, 200, ask(t, s, "POST", "/api/trees/"+tree+"/entries", `{"id": "`+look+`", "kind": "look", "from": "tree"}`,
		lead).StatusCode)
	for name, role := range map[string]string{"Wren Halloran": book.Lead, "Tobias Okafor": book.Observer, "Marit Sandoval": book.Reader} {
		cookie := signIn(t, s, name)
		token := tokenOf(t, s, cookie)
		doors := map[string]door{
			"page":    pageDoor(s, cookie),
			"session": meetingDoor(s, cookie),
			"token":   meetingDoor(s, nil, "Authorization", "Bearer "+token),
		}
		for way, through := range doors {
			own := newID()
			if book.MayDo(role, book.Observer) {
				require.True(t, through(t, tree, logbook.Entry{ID: own, Kind: logbook.KindNote, By: name, Note: "own"}))
			}
			for _, e := range entriesOf(name, look, own) {
				if way == "page" && e.About() != "" {
					continue // places have pages of their own
				}
				require.Equal(t, book.MayDo(role, book.RoleFor(e.Kind)), through(t, tree, e), "%s %s %s", role, way, e.Kind)
			}
			theirs := []string{tree, look}
			if role == book.Lead {
				theirs = theirs[:1]
			}
			for _, other := range theirs {
				undo := logbook.Entry{ID: newID(), Kind: logbook.KindUndo, By: name, Entry: other}
				require.False(t, through(t, tree, undo), "%s %s undoes the start, or what others did", role, way)
			}
			require.False(t, through(t, tree, logbook.Entry{ID: newID(), Kind: logbook.KindWithdraw, By: name, Entry: tree}))
		}
	}
	var v book.TreeView
	res := answered(t, s, "GET", "/api/trees/"+tree, "", lead)
	defer res.Body.Close()
	require.NoError(t, json.NewDecoder(res.Body).Decode(&v))
	require.NotEmpty(t, v.Tree.Tag)
}

// TestReadersGoWalks: what the program enters for somebody is not held against their role.
func TestReadersGoWalks(t *testing.T) {
	t.Parallel()
	s := guarded(t)
	lead := signIn(t, s, "Wren Halloran")
	list := `{"name": "Ours", "region": "eastern-north-america", "taxa": {"Acer rubrum": "common", "Acer saccharum": "common",
		"Quercus alba": "common"}}`
	status, text := call(t, s, lead, "PUT", "/api/lists", list)
	require.Equal(t, 200, status, text)
	for _, name := range []string{"Marit Sandoval", "Tobias Okafor"} {
		status, text := call(t, s, signIn(t, s, name), "POST", "/api/practice/walks",
			`{"region": "eastern-north-america", "list": "Ours", "trees": 5, "snow": "none", "odd": false}`)
		require.Equal(t, 201, status, text)
	}
}

func tokenOf(t *testing.T, s *httptest.Server, cookie *http.Cookie) string {
	t.Helper()
	res := answered(t, s, "POST", "/api/devices", `{"name": "tablet"}`, cookie)
	defer res.Body.Close()
	var token book.Token
	require.NoError(t, json.NewDecoder(res.Body).Decode(&token))
	return token.Token
}

func pageDoor(s *httptest.Server, cookie *http.Cookie) door {
	return func(t *testing.T, tree string, e logbook.Entry) bool {
		t.Helper()
		text, err := json.Marshal(e)
		require.NoError(t, err)
		res := answered(t, s, "POST", "/api/trees/"+tree+"/entries", string(text), cookie)
		defer res.Body.Close()
		said, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		if e.Kind == logbook.KindMove || e.Kind == logbook.KindPhoto { // by pages of their own: see TestEachAsFarAsTheirRole
			return slices.Contains([]int{200, 422}, res.StatusCode)
		}
		require.Contains(t, []int{200, 403, 422}, res.StatusCode, string(said))
		return res.StatusCode == 200
	}
}

func meetingDoor(s *httptest.Server, cookie *http.Cookie, headers ...string) door {
	return func(t *testing.T, tree string, e logbook.Entry) bool {
		t.Helper()
		text, err := json.Marshal(e)
		require.NoError(t, err)
		if e.About() != "" {
			tree = ""
		}
		body := fmt.Sprintf(`{"version": %d, "entries": [{"tree": %q, "entry": %s}]}`, book.LogVersion, tree, text)
		res := answered(t, s, "POST", "/api/meeting", body, cookie, headers...)
		defer res.Body.Close()
		if res.StatusCode == http.StatusForbidden {
			return false
		}
		var met []book.Met
		require.NoError(t, json.NewDecoder(res.Body).Decode(&met))
		require.Len(t, met, 1)
		if met[0].Answer == book.Refused {
			t.Log(e.Kind, met[0].Why)
		}
		return met[0].Answer == book.Taken
	}
}

// TestClosedWhileWatching: the stream of somebody whose account is closed ends.
func TestClosedWhileWatching(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	for _, m := range []book.NewMember{{Name: "Wren Halloran", Role: book.Lead, Password: password},
		{Name: "Tobias Okafor", Role: book.Observer, Password: password}} {
		require.NoError(t, b.AddMember(t.Context(), m))
	}
	hub := instrument.NewHub(true)
	s := httptest.NewServer(web.New(b, web.Options{Log: quiet.Log, Guarded: true, Instruments: hub}).Handler(pages))
	t.Cleanup(s.Close)
	t.Cleanup(hub.Close)
	watching := answered(t, s, "GET", "/api/instruments/live", "", signIn(t, s, "Tobias Okafor"))
	defer watching.Body.Close()
	lines := bufio.NewReader(watching.Body)
	_, err := lines.ReadString('\n')
	require.NoError(t, err)
	closed := true
	require.NoError(t, b.ChangeMember(t.Context(), "Tobias Okafor", book.MemberChange{Closed: &closed}))
	hub.Listen(nil) // a change, as there are many
	_, err = io.ReadAll(lines)
	require.NoError(t, err, "it ended as a stream ends")
}

// TestTokens: a device's token syncs and scores. It gets no further token, changes no account,
// and ends with the password that it was got with.
func TestTokens(t *testing.T) {
	t.Parallel()
	s := guarded(t)
	lead := signIn(t, s, "Wren Halloran")
	bearer := []string{"Authorization", "Bearer " + tokenOf(t, s, lead)}
	for _, does := range [][3]string{
		{"POST", "/api/devices", `{"name": "more"}`},
		{"GET", "/api/devices", ""},
		{"POST", "/api/crew", `{"name": "Ansel Brook", "role": "lead", "password": "` + password + `"}`},
		{"PATCH", "/api/crew/Tobias%20Okafor", `{"password": "` + password + ` again"}`},
		{"PUT", "/api/lists", `{}`},
		{"GET", "/api/export/records.json", ""},
	} {
		require.Equal(t, 403, ask(t, s, does[0], does[1], does[2], nil, bearer...).StatusCode, does)
	}
	require.Equal(t, 200, ask(t, s, "GET", "/api/changes", "", nil, bearer...).StatusCode)
	require.Equal(t, 204, ask(t, s, "PATCH", "/api/crew/Wren%20Halloran", `{"password": "`+password+` again"}`, lead).StatusCode)
	require.Equal(t, 401, ask(t, s, "GET", "/api/changes", "", nil, bearer...).StatusCode)
	require.Equal(t, 401, ask(t, s, "GET", "/api/trees", "", lead).StatusCode)
}
