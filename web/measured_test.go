package web_test

import (
	"archive/zip"
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/instrument"
	"palethicket/instrument/simulate"
)

// TestReadingsOfATree: what is kept of a tree follows from its readings, a changed reading
// changes it, and undoing brings the one before back.
func TestReadingsOfATree(t *testing.T) {
	t.Parallel()
	s := forest(t)
	tree := get[book.TreeList](t, s, "/api/trees?text=LC-102").Trees[0].ID
	enter := func(entry string) (int, book.TreeView) {
		t.Helper()
		status, text := s.send("POST", "/api/trees/"+tree+"/entries", fmt.Sprintf(`{"id":%q,%s}`, ulid.Make(), entry))
		var v book.TreeView
		if status < 300 {
			require.NoError(t, json.Unmarshal(text, &v))
		}
		return status, v
	}
	const angles = `"kind":"facts","facts":{},"measured":{"sum":"height-angles","instrument":"Hypsometer",` +
		`"given":{"distance":"%s","top":"62 %%","base":"-8 %%"}}`
	was := get[book.TreeView](t, s, "/api/trees/"+tree)
	heights := func() float64 { // of the stand's trees together
		where := url.Values{"tract": {was.Tree.Tract}, "stand": {was.Tree.Stand}}
		h := get[book.Composition](t, s, "/api/composition?"+where.Encode()).Heights
		return float64(h.Trees) * h.Mean
	}
	before := heights()
	status, v := enter(fmt.Sprintf(angles, "20 m"))
	require.Equal(t, 200, status)
	require.InDelta(t, 14.0, v.Facts.Height, 1e-9)
	require.Equal(t, "height", v.Readings[0].Fills)
	_, v = enter(fmt.Sprintf(angles, "21 m"))
	require.InDelta(t, 14.7, v.Facts.Height, 1e-9)
	last := v.Readings[0].Entry
	_, v = enter(`"kind":"undo","entry":"` + last + `"`)
	require.InDelta(t, 14.0, v.Facts.Height, 1e-9)
	story := get[book.Story](t, s, "/api/trees/"+tree+"/story")
	require.Contains(t, story.Steps[len(story.Steps)-3].Words, "by Hypsometer")
	require.Contains(t, story.Readings[0].Words, "distance 20 m")
	require.Equal(t, "14.0 m ± 0.2", story.Readings[0].Says)
	require.WithinDuration(t, time.Now(), story.Readings[0].At, time.Hour)
	require.InDelta(t, before+14.0-was.Facts.Height, heights(), 1e-6, "the stand knows of it")

	look := v.Looks[0].ID
	_, v = enter(
		`"kind":"score","look":"` + look + `","score":{"character":"form.dbh"},"measured":{"sum":"diameter-girth","given":{"girth":"94.2 cm"}}`,
	)
	require.InDelta(t, 30.0, *v.Looks[0].Scores[len(v.Looks[0].Scores)-1].Value, 0.01)
	require.Equal(t, look, v.Readings[1].Look)

	for entry, says := range map[string]string{
		fmt.Sprintf(angles, "twenty"): "measured.given.distance",
		`"kind":"facts","facts":{"height_m":99},"measured":{"sum":"height-stick","given":{}}`: "measured",
		`"kind":"note","note":"x","measured":{"sum":"fix"}`:                                   "measured",
	} {
		status, text := s.send("POST", "/api/trees/"+tree+"/entries", fmt.Sprintf(`{"id":%q,%s}`, ulid.Make(), entry))
		require.Equal(t, 422, status)
		require.Contains(t, string(text), says)
	}
	require.InDelta(t, 14.0, get[book.TreeView](t, s, "/api/trees/"+tree).Facts.Height, 1e-9)
	require.Contains(t, archiveTable(t, s, "measurementorfact.csv"), "by Hypsometer")
}

func archiveTable(t *testing.T, s *server, name string) string {
	t.Helper()
	_, _, file := s.fetch("/api/export/dwca")
	z, err := zip.NewReader(bytes.NewReader(file), int64(len(file)))
	require.NoError(t, err)
	f, err := z.Open(name)
	require.NoError(t, err)
	text, err := io.ReadAll(f)
	require.NoError(t, err)
	return string(text)
}

// TestPlots: what is counted from points adds up, comes out in composition, report and files,
// and what cannot be counted is said with its field.
func TestPlots(t *testing.T) {
	t.Parallel()
	s := forest(t)
	const where = "tract=Lantern%20Creek%20watershed%20forest&stand=North%20cove"
	put := func(id ulid.ULID, body string) (int, []byte) {
		return s.send(
			"PUT",
			"/api/plots",
			fmt.Sprintf(`{"id":%q,"tract":"Lantern Creek watershed forest","stand":"North cove","day":"2026-11-21",%s}`, id, body),
		)
	}
	tag := get[book.TreeList](t, s, "/api/trees?"+where+"&status=named").Trees[0]
	first, second := ulid.Make(), ulid.Make()
	status, text := put(
		first,
		`"name":"A","factor":"2 m2/ha","stems":[{"taxon":"sugar maple","diameter":"31 cm"},{"taxon":"Acer","diameter":"42 cm"},`+
			fmt.Sprintf(`{"tag":%q,"diameter":"24 cm"}]`, tag.Tag),
	)
	require.Equal(t, 204, status, string(text))
	one := get[book.PlotTally](t, s, "/api/plots?"+where)
	require.InDelta(t, 6, *one.Area.Mean, 1e-9)
	require.Nil(t, one.Area.SE)
	status, _ = put(
		second,
		`"name":"B","factor":"10 ft2/ac","position":{"lon":-90.63,"lat":43.567},"stems":[{"diameter":"12 in","borderline":true}]`,
	)
	require.Equal(t, 204, status)
	status, _ = put(
		second,
		`"name":"B","factor":"10 ft2/ac","position":{"lon":-90.63,"lat":43.567},"stems":[{"diameter":"12 in","borderline":true}]`,
	)
	require.Equal(t, 204, status) // sent twice, it counts once
	two := get[book.PlotTally](t, s, "/api/plots?"+where)
	require.Len(t, two.Points, 2)
	require.InDelta(t, (6+2.2957/2)/2, *two.Area.Mean, 1e-3)
	require.Greater(t, two.Needed10, 2)
	words := map[string]bool{}
	for _, x := range two.Taxa {
		words[x.Words] = true
	}
	require.True(t, words["Not named"] && words["Sugar maple"], "%v", words)
	require.Len(t, get[book.Composition](t, s, "/api/composition?"+where).Plots.Points, 2)
	spots := get[book.Map](t, s, "/api/map").Points
	require.True(t, slices.ContainsFunc(spots, func(p book.PlotSpot) bool { return p.Name == "B" && p.Stand == "North cove" }))
	_, _, csv := s.fetch("/api/plots.csv?" + where)
	require.Contains(t, string(csv), "10 ft2/ac")
	_, _, page := s.fetch("/api/report.html?" + where)
	require.Contains(t, string(page), "From sample points")
	require.Contains(t, archiveTable(t, s, "measurementorfact.csv"), "counted from sample point")

	for body, says := range map[string]string{
		`"name":"C","stems":[]`:                                                              "plot.factor",
		`"name":"C","factor":"2","stems":[]`:                                                 "plot.factor",
		`"name":"C","factor":"2 m2/ha","slope":"steep","stems":[]`:                           "plot.slope",
		`"name":" b ","factor":"2 m2/ha","stems":[]`:                                         "has a point B already",
		`"name":"C","factor":"2 m2/ha","radius":"5 m","stems":[]`:                            "one of the two",
		`"name":"C","radius":"5 km","stems":[]`:                                              "plot.radius",
		`"name":"C","radius":"5 m","stems":[{"taxon":"maple tree of heaven"}]`:               "plot.stems[0].taxon",
		`"name":"C","radius":"5 m","stems":[{"tag":"nothing"}]`:                              "plot.stems[0].tag",
		`"name":"C","radius":"5 m","stems":[{},{"diameter":"90 m"}]`:                         "plot.stems[1].diameter",
		`"name":" ","radius":"5 m","stems":[]`:                                               "name",
		`"name":"C","radius":"5 m","position":{"lon":200,"lat":0},"stems":[]`:                "position",
		fmt.Sprintf(`"name":"C","radius":"5 m","stems":[{"tag":%q},{"tag":%[1]q}]`, tag.Tag): "already",
	} {
		status, text := put(ulid.Make(), body)
		require.Equal(t, 422, status, "%s: %s", body, text)
		require.Contains(t, string(text), says, body)
	}
	for where, says := range map[string]string{
		`"tract":"Lantern Creek watershed forest","stand":"North cove","day":"2199-01-01"`: "still to come",
		`"tract":"Lantern Creek watershed forest","stand":"Nowhere","day":"2026-11-21"`:    "no tract or stand of this name",
	} {
		status, text := s.send("PUT", "/api/plots", fmt.Sprintf(`{"id":%q,%s,"name":"D","factor":"2 m2/ha","stems":[]}`, ulid.Make(), where))
		require.GreaterOrEqual(t, status, 400)
		require.Contains(t, string(text), says)
	}
	status, _ = put(ulid.Make(), `"name":"E","factor":"2 m2/ha","slope":"40 %","stems":[{"diameter":"30 cm"}]`)
	require.Equal(t, 204, status)
	steep := get[book.PlotTally](t, s, "/api/plots?"+where).Points
	require.Contains(t, steep[len(steep)-1].Words, "2.2 m²/ha", "2 / cos(atan 0.4) of one stem")

	status, _ = put(first, `"name":"A","factor":"2 m2/ha","stems":[],"gone":true`)
	require.Equal(t, 204, status)
	require.Len(t, get[book.PlotTally](t, s, "/api/plots?"+where).Points, 2)
}

// TestMarks: what is marked on a photograph stays with it, and is read off with its error.
func TestMarks(t *testing.T) {
	t.Parallel()
	s := forest(t)
	tree := get[book.TreeList](t, s, "/api/trees?text=LC-101").Trees[0].ID
	photo := get[[]book.Photo](t, s, "/api/trees/"+tree+"/photos")[0]
	marks := fmt.Sprintf(
		`{"photo":%q,"known":"20 mm","lines":[{"from":[0.1,0.5],"to":[0.6,0.5]},{"from":[0.1,0.6],"to":[0.35,0.6],"of":"bud.length"}],`+
			`"tally":[[0.1,0.1],[0.2,0.2]],"what":"bud.scale-count"}`,
		photo.ID,
	)
	status, text := s.send("POST", "/api/marks", marks)
	require.Equal(t, 200, status)
	var off book.ReadOff
	require.NoError(t, json.Unmarshal(text, &off))
	require.Contains(t, off.Lines[1], "10 mm ±")
	require.Len(t, off.Offered, 2)
	require.Equal(t, "2", off.Offered[1].Typed)
	enter := func(marks string) (int, []byte) {
		return s.send("POST", "/api/trees/"+tree+"/entries", fmt.Sprintf(`{"id":%q,"kind":"marks","marks":%s}`, ulid.Make(), marks))
	}
	status, text = enter(marks)
	require.Equal(t, 200, status, string(text))
	kept := get[book.Marks](t, s, "/api/photos/"+photo.ID+"/marks")
	require.Equal(t, "20 mm", kept.Known)
	require.Len(t, kept.Tally, 2)
	for marks, says := range map[string]string{
		`{"photo":"01ARZ3NDEKTSV4RRFFQ69G5FAV"}`:                         "no such photograph",
		fmt.Sprintf(`{"photo":%q,"tally":[[1.5,0]]}`, photo.ID):          "beside the photograph",
		fmt.Sprintf(`{"photo":%q,"known":"10 mm","lines":[]}`, photo.ID): "known length first",
	} {
		status, text := enter(marks)
		require.Equal(t, 422, status)
		require.Contains(t, string(text), says)
	}
}

// TestInstruments: they are named by a lead alone, watched live, and a window that leaves or a
// server that stops ends the watching.
func TestInstruments(t *testing.T) {
	t.Parallel()
	hub := instrument.NewHub(true)
	t.Cleanup(hub.Close)
	listening := quiet
	listening.Instruments = hub
	s := servingWith(t, booktest.New(t), listening)
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, stop := context.WithCancel(context.Background())
	t.Cleanup(stop)
	go func() {
		_ = simulate.Serve(ctx, ln, instrument.Caliper, simulate.Options{Every: 50 * time.Millisecond})
	}()
	for body, says := range map[string]string{
		`{"instruments":[{"name":"C","kind":"caliper","address":"here"}]}`:                                                        "127.0.0.1:8091",
		`{"instruments":[{"name":" ","kind":"caliper","address":"127.0.0.1:1"}]}`:                                                 "name",
		`{"instruments":[{"name":"C","kind":"weather","address":"ftp://x"}]}`:                                                     "http://",
		`{"instruments":[{"name":"C","kind":"gnss","address":"127.0.0.1:1"},{"name":"C","kind":"gnss","address":"127.0.0.1:2"}]}`: "another",
	} {
		status, text := s.send("PUT", "/api/instruments", body)
		require.Equal(t, 422, status)
		require.Contains(t, string(text), says)
	}
	status, _ := s.send(
		"PUT",
		"/api/instruments",
		fmt.Sprintf(`{"instruments":[{"name":"Caliper","kind":"caliper","address":%q}]}`, ln.Addr()),
	)
	require.Equal(t, 200, status)
	res, err := http.Get(s.URL + "/api/instruments/live") //nolint:bodyclose // closed below
	require.NoError(t, err)
	defer func() { _ = res.Body.Close() }()
	require.Equal(t, "text/event-stream", res.Header.Get("Content-Type"))
	lines := bufio.NewScanner(res.Body)
	found := false
	for !found && lines.Scan() {
		found = strings.Contains(lines.Text(), `"diameter"`) && strings.Contains(lines.Text(), ` cm"`)
	}
	require.True(t, found)
	hub.Close()
	for lines.Scan() { // what was on its way
	}
	require.NoError(t, lines.Err()) // it ended
}

// TestOutside: weather and season suggest, each with its reason.
func TestOutside(t *testing.T) {
	t.Parallel()
	s := forest(t)
	out := get[book.Outside](t, s, "/api/outside?at=-90.63,43.57")
	require.Contains(t, out.Season.Says, "Hopkins")
	list := get[book.OpenList](t, s, "/api/worklist?sort=buds&limit=50")
	before := ""
	for _, tree := range list.Trees {
		for _, e := range tree.Back {
			if e.ID == "swell" {
				require.GreaterOrEqual(t, e.From, before)
				before = e.From
			}
		}
	}
}
