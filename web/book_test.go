package web_test

import (
	"bytes"
	"encoding/json"
	"image"
	"image/jpeg"
	"io"
	"net/http"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/core/stand/worklist"
	"palethicket/demo/demotest"
	"palethicket/web"
)

// forest serves the demo forest.
func forest(t *testing.T) *server {
	t.Helper()
	return serving(t, demotest.New(t))
}

// fetch asks for a file and gives its kind, its name and what it holds.
func (s *server) fetch(path string) (kind, disposition string, body []byte) {
	s.t.Helper()
	res, err := http.Get(s.URL + path)
	require.NoError(s.t, err)
	defer res.Body.Close()
	body, err = io.ReadAll(res.Body)
	require.NoError(s.t, err)
	require.Equal(s.t, 200, res.StatusCode, string(body))
	return res.Header.Get("Content-Type"), res.Header.Get("Content-Disposition"), body
}

// post sends a file.
func (s *server) post(path string, body []byte) (int, []byte) {
	s.t.Helper()
	res, err := http.Post(s.URL+path, "application/octet-stream", bytes.NewReader(body))
	require.NoError(s.t, err)
	defer res.Body.Close()
	text, err := io.ReadAll(res.Body)
	require.NoError(s.t, err)
	return res.StatusCode, text
}

func TestListsFilterAndPage(t *testing.T) {
	t.Parallel()
	s := forest(t)
	ask := func(query string) book.TreeList { return get[book.TreeList](t, s, "/api/trees?"+query) }
	require.Equal(t, 400, ask("").Total)
	first, second := ask("limit=5"), ask("limit=5&offset=5")
	require.Len(t, first.Trees, 5)
	require.NotEqual(t, first.Trees[4].ID, second.Trees[0].ID)
	require.Equal(t, 70, ask("stand=North+cove").Total)
	named, doubtful := ask("status=named").Total, ask("status=doubtful").Total
	require.Equal(t, named+doubtful, ask("status=named&status=doubtful").Total)
	require.Equal(t, 1, ask("text=LC-204").Total, "part of a tag")
	for _, tree := range ask("text=butternut&limit=100").Trees {
		require.Contains(t, []string{tree.Leader, tree.Given}, "Juglans cinerea")
	}
	require.Zero(t, ask("text=100%25").Total, "a sign that SQL takes for any text is only a sign")
	last := ask("sort=last&limit=2").Trees
	require.GreaterOrEqual(t, last[0].Last, last[1].Last)
	status, _ := s.send("GET", "/api/trees?sort=colour", "")
	require.Equal(t, 422, status)
}

func TestWorkAndStands(t *testing.T) {
	t.Parallel()
	s := forest(t)
	work := get[book.OpenList](t, s, "/api/worklist?limit=10")
	require.Len(t, work.Trees, 10)
	for i, o := range work.Trees {
		require.NotEqual(t, worklist.Named, o.Status)
		if i > 0 {
			require.LessOrEqual(t, o.NextBits, work.Trees[i-1].NextBits)
		}
	}
	kind, name, body := s.fetch("/api/worklist/calendar.ics?stand=North+cove")
	require.Contains(t, kind, "text/calendar")
	require.Contains(t, name, "come-back.ics")
	require.Contains(t, string(body), "BEGIN:VEVENT")
	c := get[book.Composition](t, s, "/api/composition?tract="+url.QueryEscape("Lantern Creek watershed forest"))
	require.Equal(t, 400, c.Trees)
	require.NotEmpty(t, c.Note)
	dots := get[[]book.Dot](t, s, "/api/map/trees?stand=Bluff+ridge")
	require.Len(t, dots, 60)
	m := get[book.Map](t, s, "/api/map")
	require.Len(t, m.Stands, 6)
	require.Contains(t, string(m.Tracts[0].Terrain), `"kind":"stream"`)
	visits := get[[]book.Visit](t, s, "/api/visits")
	require.Greater(t, visits[0].Day, visits[len(visits)-1].Day, "the latest first")
}

func TestBoundaries(t *testing.T) {
	t.Parallel()
	s := serve(t)
	put := func(boundary string) (int, []byte) {
		return s.send(
			"PUT",
			"/api/stands",
			`{"tract": "Lantern Creek watershed forest", "stand": "Upper slope", "remarks": "steep", "boundary": `+boundary+`}`,
		)
	}
	square := `{"type": "Polygon", "coordinates": [[[-90.64, 43.56], [-90.63, 43.56], [-90.63, 43.57], [-90.64, 43.57], [-90.64, 43.56]]]}`
	for _, body := range []string{square, `{"type": "Feature", "properties": {}, "geometry": ` + square + `}`,
		`{"type": "FeatureCollection", "features": [{"type": "Feature", "properties": {}, "geometry": ` + square + `}]}`} {
		status, text := put(body)
		require.Equal(t, 204, status, string(text))
		m := get[book.Map](t, s, "/api/map")
		require.InDelta(t, 89.8, m.Stands[0].Hectares, 0.5, "about 806 by 1113 metres")
		require.JSONEq(t, square, string(m.Stands[0].Boundary))
	}
	for body, says := range map[string]string{
		`{"type": "Point", "coordinates": [0, 0]}`:                                 "no polygon",
		`{"type": "Polygon", "coordinates": [[[0, 0], [1, 0], [1, 1]]]}`:           "not closed",
		`{"type": "Polygon", "coordinates": [[[0, 91], [1, 0], [1, 1], [0, 91]]]}`: "off the globe",
		`{"type": "Nonsense"}`: "not GeoJSON",
	} {
		status, text := put(body)
		require.Equal(t, 422, status)
		require.Contains(t, string(text), says)
		require.Contains(t, string(text), "body.boundary")
	}
	require.JSONEq(t, square, string(get[book.Map](t, s, "/api/map").Stands[0].Boundary), "what was refused changed nothing")
	status, _ := s.send(
		"PUT",
		"/api/tracts",
		`{"tract": "Lantern Creek watershed forest", "terrain": {"type": "FeatureCollection", "features": []}}`,
	)
	require.Equal(t, 204, status)
	status, text := s.send("PUT", "/api/tracts", `{"tract": "Lantern Creek watershed forest", "terrain": {"type": "Sketch"}}`)
	require.Equal(t, 422, status)
	require.Contains(t, string(text), "body.terrain")
}

func TestFilesOverHTTP(t *testing.T) {
	t.Parallel()
	s := forest(t)
	formats := get[web.Formats](t, s, "/api/formats")
	require.Len(t, formats.Formats, 8)
	for _, f := range formats.Formats {
		kind, name, body := s.fetch("/api/export/" + f.ID + "?stand=Old+pasture")
		require.Equal(t, f.Type, kind)
		require.Contains(t, name, "trees."+f.Extension)
		require.NotEmpty(t, body)
	}
	_, _, table := s.fetch("/api/export/csv?stand=Old+pasture")
	empty := serve(t)
	status, text := empty.post("/api/imports?name=pasture.csv", table)
	require.Equal(t, 200, status, string(text))
	var p book.Preview
	require.NoError(t, json.Unmarshal(text, &p))
	require.Equal(t, 50, p.Total)
	require.Equal(t, 50, p.Lacks[0].Lines, "the list they were ranked among is not in this book")
	body, err := json.Marshal(p.Mapping)
	require.NoError(t, err)
	status, text = empty.send("POST", "/api/imports/"+p.ID+"/preview", string(body))
	require.Equal(t, 200, status, string(text))
	require.NoError(t, json.Unmarshal(text, &p))
	require.Equal(t, 50, p.Good)
	put, err := json.Marshal(web.PutIn{Mapping: p.Mapping, By: "Wren Halloran"})
	require.NoError(t, err)
	status, text = empty.send("POST", "/api/imports/"+p.ID, string(put))
	require.Equal(t, 200, status, string(text))
	require.Eventually(t, func() bool { return get[book.Progress](t, empty, "/api/imports/"+p.ID).Ended }, waitLong, waitShort)
	require.Equal(t, 50, get[book.TreeList](t, empty, "/api/trees").Total)
	status, text = empty.send("POST", "/api/imports/"+p.ID+"/undo", "")
	require.Equal(t, 200, status)
	require.JSONEq(t, `{"aside": 50, "back": 0, "stay": 0}`, withoutSchema(text))
	require.Zero(t, get[book.TreeList](t, empty, "/api/trees").Total)

	for name, c := range map[string]struct {
		body string
		says string
	}{"a.csv": {"", "is empty"}, "b.zip": {"PK\x03\x04", "not a whole archive"}, "c.gpx": {"<gpx></gpx>", "no waypoints"}} {
		status, text := empty.post("/api/imports?name="+name, []byte(c.body))
		require.Contains(t, []int{400, 422}, status, name)
		if c.body != "" {
			require.Contains(t, string(text), c.says, name)
		}
	}
	status, _ = empty.send("GET", "/api/imports/nothing", "")
	require.Equal(t, 404, status)
}

func withoutSchema(text []byte) string {
	var fields map[string]any
	if json.Unmarshal(text, &fields) != nil {
		return string(text)
	}
	delete(fields, "$schema")
	out, _ := json.Marshal(fields) // it was JSON a moment ago
	return string(out)
}

func TestPhotosOverHTTP(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tree := s.newTree("LC-1")
	v := s.view(s.entry(tree, `"kind": "look", "from": "tree"`))
	var pic bytes.Buffer
	require.NoError(t, jpeg.Encode(&pic, image.NewRGBA(image.Rect(0, 0, 900, 600)), nil))
	id := newID()
	path := "/api/trees/" + tree + "/photos?photo=" + id + "&look=" + v.Looks[0].ID + "&caption=bark&by=Wren+Halloran"
	for range 2 { // sent again after a lost answer
		status, text := s.post(path, pic.Bytes())
		require.Equal(t, 200, status, string(text))
	}
	photos := get[[]book.Photo](t, s, "/api/trees/"+tree+"/photos")
	require.Len(t, photos, 1)
	require.Equal(t, []int{900, 600}, []int{photos[0].Width, photos[0].Height})
	require.Equal(t, "Wren Halloran", photos[0].By)
	kind, _, body := s.fetch("/api/photos/" + id + "/full")
	require.Equal(t, "image/jpeg", kind)
	require.Equal(t, pic.Bytes(), body, "kept as it is")
	_, _, small := s.fetch("/api/photos/" + id + "/thumb")
	size, err := jpeg.DecodeConfig(bytes.NewReader(small))
	require.NoError(t, err)
	require.Equal(t, 480, size.Width)
	status, _ := s.send("PUT", "/api/photos/"+id, `{"gone": true}`)
	require.Equal(t, 204, status)
	require.Empty(t, get[[]book.Photo](t, s, "/api/trees/"+tree+"/photos"))
	for what, path := range map[string]string{"a look that is not there": "/api/trees/" + tree + "/photos?photo=" + newID() + "&look=" + newID(),
		"no photograph": "/api/trees/" + tree + "/photos?photo=" + newID()} {
		body := pic.Bytes()
		if what == "no photograph" {
			body = []byte("<svg>")
		}
		status, _ := s.post(path, body)
		require.Equal(t, 422, status, what)
	}
	status, _ = s.send("GET", "/api/photos/nothing/full", "")
	require.Equal(t, 404, status)
}

func TestReportOverHTTP(t *testing.T) {
	t.Parallel()
	s := forest(t)
	kind, disposition, body := s.fetch("/api/report.html?stand=North+cove&tract=Lantern+Creek+watershed+forest")
	require.Contains(t, kind, "text/html")
	require.Equal(t, "inline", disposition)
	require.Contains(t, string(body), "North cove")
	require.False(t, strings.Contains(string(body), "<script"))
	kind, _, body = s.fetch("/api/report.pdf?stand=North+cove&tract=Lantern+Creek+watershed+forest")
	require.Equal(t, "application/pdf", kind)
	require.True(t, bytes.HasPrefix(body, []byte("%PDF")))
}

// TestLettersNoFontHas: a name with a letter that no font has is printed without it.
func TestLettersNoFontHas(t *testing.T) {
	t.Parallel()
	s := serve(t)
	status, text := s.send("POST", "/api/trees", `{"id": "`+newID()+`", "tag": "🌲 1", "tract": "🌲", "stand": "🌲"}`)
	require.Equal(t, 201, status, string(text))
	for _, path := range []string{"/api/report.pdf?", "/api/paper/tags.pdf?base=https://book.example&", "/api/key.pdf?", "/api/paper/tally.pdf?",
		"/api/day.pdf?"} {
		status, text := s.send("GET", path+"tract=%F0%9F%8C%B2&stand=%F0%9F%8C%B2&tag=%F0%9F%8C%B2", "")
		require.Less(t, status, 500, "%s: %s", path, text)
	}
}

func TestUndoAndMoveOverHTTP(t *testing.T) {
	t.Parallel()
	s := serve(t)
	tree := s.newTree("LC-1")
	s.newTree("LC-2")
	v := s.view(s.entry(tree, `"kind": "look", "from": "tree"`))
	v = s.view(s.entry(tree, `"kind": "undo", "entry": "`+v.Looks[0].ID+`"`))
	require.Empty(t, v.Looks)
	status, text := s.entry(tree, `"kind": "undo", "entry": "nothing"`)
	require.Equal(t, 422, status)
	require.Contains(t, string(text), "no such entry")
	move := func(tag string) (int, []byte) {
		return s.send(
			"POST",
			"/api/trees/"+tree+"/move",
			`{"tag": "`+tag+`", "tract": "Lantern Creek watershed forest", "stand": "Creek bottom", "new": true}`,
		)
	}
	v = s.view(move("LC-7"))
	require.Equal(t, "Creek bottom", v.Tree.Stand)
	status, _ = move("LC-2")
	require.Equal(t, 409, status)
	status, _ = s.send("GET", "/api/trees/"+newID()+"/story", "")
	require.Equal(t, 404, status)
	story := get[book.Story](t, s, "/api/trees/"+tree+"/story")
	require.Len(t, story.Steps, 4, "its start, the look, its undoing, and its move")
}

const (
	waitLong  = 2 * time.Minute
	waitShort = 10 * time.Millisecond
)

// TestLargeTerrain: the contours of a whole tract are more than other requests may
// be.
func TestLargeTerrain(t *testing.T) {
	t.Parallel()
	s := serve(t)
	line := `{"type": "Feature", "properties": {"kind": "contour", "elevation_m": 300}, "geometry": {"type": "LineString", "coordinates": [` +
		strings.Repeat("[-90.6412, 43.5634],", 1000) + `[-90.64, 43.56]]}}`
	body := `{"tract": "Lantern Creek watershed forest", "terrain": {"type": "FeatureCollection", "features": [` +
		strings.Repeat(line+",", 120) + line + `]}}`
	require.Greater(t, len(body), 2<<20)
	status, text := s.send("PUT", "/api/tracts", body)
	require.Equal(t, 204, status, string(text))
	require.Greater(t, len(get[book.Map](t, s, "/api/map").Tracts[0].Terrain), 1<<20)
}
