package away_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/away"
	"palethicket/book"
	"palethicket/book/booktest"
)

// TestPhotographs: a photograph is sent after its entry, in pieces, from where the line
// broke, and once.
func TestPhotographs(t *testing.T) {
	t.Parallel()
	h := newHome(t, false)
	d := h.along("", time.Now)
	tree := treeOf(t, d.book, "LC-1")
	var file bytes.Buffer
	require.NoError(t, png.Encode(&file, noise(600, 500)))
	require.Greater(t, file.Len(), 600_000, "several pieces")
	p, err := d.book.AddPhoto(t.Context(), book.NewPhoto{ID: ulid.Make().String(), Tree: tree}, bytes.NewReader(file.Bytes()))
	require.NoError(t, err)
	require.Equal(t, 1, d.status().Pictures)
	pieces := 0
	h.lose = func(r *http.Request) bool {
		if r.Method == "PUT" && strings.HasSuffix(r.URL.Path, "/arriving") {
			pieces++
		}
		return r.Method == "PUT" && pieces == 2 // it arrived, and the answer was lost
	}
	require.Error(t, d.Meet(t.Context()))
	require.Equal(t, 1, d.status().Pictures)
	h.lose = nil
	before := len(h.asked)
	d.meet()
	require.Zero(t, d.status().Pictures)
	sent := 0
	for _, a := range h.asked[before:] {
		if strings.HasPrefix(a, "PUT ") {
			sent++
		}
	}
	require.LessOrEqual(t, sent, (file.Len()-1)/(256<<10), "not from its start")
	whole, kind, err := booktest.ReadPhoto(t, h.book, p.ID, false)
	require.NoError(t, err)
	require.Equal(t, "image/png", kind)
	require.Equal(t, file.Bytes(), whole)
	photos, err := h.book.Photos(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, photos, 1)
	_, _, err = booktest.ReadPhoto(t, h.book, p.ID, true)
	require.NoError(t, err)
}

func noise(w, h int) image.Image {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	x := uint32(1)
	for i := range w * h {
		x = x*1664525 + 1013904223
		img.Set(i%w, i/w, color.RGBA{byte(x >> 24), byte(x >> 16), byte(x >> 8), 255})
	}
	return img
}

// TestManyWait: what waits comes home in batches.
func TestManyWait(t *testing.T) {
	t.Parallel()
	h := newHome(t, false)
	d := h.along("", time.Now)
	day := time.Date(2020, 1, 1, 0, 0, 0, 0, time.UTC)
	for n := range book.MeetMost + 10 {
		v := book.Visit{ID: ulid.Make().String(), Tract: tract, Day: day.AddDate(0, 0, n).Format(time.DateOnly), Snow: "none"}
		require.NoError(t, d.book.PutVisit(t.Context(), v, ""))
	}
	tree := start(t, d.book, "LC-99", "")
	look(t, d.book, tree, "", "smooth")
	point := book.Plot{ID: ulid.Make().String(), Tract: tract, Stand: "Upper slope", Name: "P1", Day: "2020-01-01", Factor: "2 m2/ha",
		Stems: []book.Stem{{Tree: tree, Diameter: "31 cm"}}}
	require.NoError(t, d.book.PutPlot(t.Context(), point, ""))
	h.lose = func(r *http.Request) bool { return r.URL.Path == "/api/meeting" } // home took the first batch, and its answer is lost
	require.Error(t, d.Meet(t.Context()))
	require.Greater(t, d.status().Count, book.MeetMost, "what was not answered still waits")
	h.lose = nil
	d.meet()
	require.Zero(t, d.status().Count)
	require.Equal(t, view(t, h.book, tree), view(t, d.book, tree))
	visits, err := h.book.Visits(t.Context(), tract)
	require.NoError(t, err)
	require.Len(t, visits, book.MeetMost+11)
	counted, err := h.book.Plots(t.Context(), tract, "")
	require.NoError(t, err)
	require.Equal(t, tree, counted.Points[0].Stems[0].Tree)
}

// TestRefusedStays: what home refuses stays on the device with why, is told again when
// asked, and is in the file of all that is not home.
func TestRefusedStays(t *testing.T) {
	t.Parallel()
	h := newHome(t, false)
	d := h.along("", time.Now)
	tree := treeOf(t, d.book, "LC-1")
	list := book.NewList{
		Name:   "North cove",
		Region: "eastern-north-america",
		Taxa:   map[string]string{"Acer rubrum": "common", "Ulmus americana": "common"},
	}
	_, err := d.book.PutList(t.Context(), list, "")
	require.NoError(t, err)
	_, err = d.book.AddEntry(t.Context(), tree, &book.Entry{ID: ulid.Make().String(), Kind: "facts",
		Facts: &book.SetFacts{Among: &book.Among{Region: "eastern-north-america", List: "North cove"}}})
	require.NoError(t, err)
	h.lose = func(r *http.Request) bool { return false }
	h.Handler = refusing{h.Handler}
	d.meet()
	s := d.status()
	require.Len(t, s.Refused, 2)
	require.Contains(t, s.Refused[0].Why, "not in the mood")
	held, err := d.Held(t.Context())
	require.NoError(t, err)
	require.Len(t, held.Entries, 2)
	h.Handler = h.Handler.(refusing).Handler
	require.NoError(t, d.book.TellAgain(t.Context(), false))
	d.meet()
	require.Empty(t, d.status().Refused)
	require.Equal(t, view(t, h.book, tree), view(t, d.book, tree))
}

// refusing is a home that takes nothing.
type refusing struct{ http.Handler }

func (r refusing) ServeHTTP(w http.ResponseWriter, req *http.Request) {
	if req.URL.Path != "/api/meeting" {
		r.Handler.ServeHTTP(w, req)
		return
	}
	var m struct {
		Entries []struct{ Entry struct{ ID string } }
	}
	_ = json.NewDecoder(req.Body).Decode(&m)
	out := []book.Met{}
	for _, e := range m.Entries {
		out = append(out, book.Met{ID: e.Entry.ID, Answer: book.Refused, Why: "home is not in the mood"})
	}
	_ = json.NewEncoder(w).Encode(out)
}

// TestAnotherProgram: a home of another book, or of a newer or older program, is told
// nothing, and says what to do.
func TestAnotherProgram(t *testing.T) {
	t.Parallel()
	h := newHome(t, false)
	d := h.along("", time.Now)
	look(t, d.book, treeOf(t, d.book, "LC-1"), "", "smooth")
	right := h.Handler
	for _, p := range []struct {
		program away.Program
		says    string
	}{
		{away.Program{Book: "01ANOTHER", LogVersion: book.LogVersion}, "another book"},
		{away.Program{Book: h.book.ID(), LogVersion: book.LogVersion + 1}, "home has a newer program"},
		{away.Program{Book: h.book.ID(), LogVersion: book.LogVersion - 1}, "home has an older program"},
	} {
		h.Handler = http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { _ = json.NewEncoder(w).Encode(p.program) })
		require.ErrorContains(t, d.Meet(t.Context()), p.says)
		require.Contains(t, d.status().Trouble, p.says)
		require.Equal(t, 3, d.status().Count, "nothing is lost")
	}
	h.Handler = http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		fmt.Fprint(w, "<html>sign in to the wireless network</html>")
	})
	require.Error(t, d.Meet(t.Context()))
	require.False(t, d.status().Online, "something on the way answered")
	h.Handler = right
	d.meet()
	require.Zero(t, d.status().Count)
}

// TestTakenAnew: what was not home when a device takes other tracts along is carried over,
// with who is at work on it.
func TestTakenAnew(t *testing.T) {
	t.Parallel()
	h := newHome(t, true)
	d := h.along("Wren Halloran", time.Now)
	tree := treeOf(t, d.book, "LC-1")
	look(t, d.book, tree, "Wren Halloran", "smooth")
	want := view(t, d.book, tree)
	next := h.along("Wren Halloran", time.Now)
	n, err := away.Carry(t.Context(), d.book, next.book)
	require.NoError(t, err)
	require.Equal(t, 3, n)
	require.Equal(t, want, view(t, next.book, tree))
	next.meet()
	require.Equal(t, want, view(t, h.book, tree))
}

// TestGivenBack: a tract is not given back while something of it is not home.
func TestGivenBack(t *testing.T) {
	t.Parallel()
	h := newHome(t, false)
	id := ulid.Make().String()
	_, err := h.book.AddTree(t.Context(), book.NewTree{ID: id, Tag: "MC-1", Tract: "Mill Creek", Stand: "Bench", New: true})
	require.NoError(t, err)
	both := h.along("", time.Now, tract, "Mill Creek")
	look(t, both.book, id, "", "smooth")
	one := h.along("", time.Now)
	_, err = away.Carry(t.Context(), both.book, one.book)
	require.ErrorContains(t, err, "not home yet, and with no place in what comes along: MC-1")
	both.meet()
	_, err = away.Carry(t.Context(), both.book, one.book)
	require.NoError(t, err)
}

// TestMovedHere: a tree that was moved into the tract from another comes whole.
func TestMovedHere(t *testing.T) {
	t.Parallel()
	h := newHome(t, false)
	id := ulid.Make().String()
	_, err := h.book.AddTree(t.Context(), book.NewTree{ID: id, Tag: "PH-1", Tract: "Pump house", Stand: "Avenue", New: true})
	require.NoError(t, err)
	look(t, h.book, id, "", "smooth")
	d := h.along("", time.Now)
	_, err = d.book.View(t.Context(), id)
	require.ErrorIs(t, err, book.ErrNoTree)
	_, err = h.book.MoveTree(t.Context(), id, book.Move{Tag: "LC-50", Tract: tract, Stand: "Upper slope"})
	require.NoError(t, err)
	d.meet()
	require.Equal(t, view(t, h.book, id), view(t, d.book, id))
}
