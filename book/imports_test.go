package book_test

import (
	"bytes"
	"context"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/stand/worklist"
	"palethicket/core/tree/logbook"
	"palethicket/demo/demotest"
	"palethicket/store"
)

const table = "tag,tract,stand,lat,lon,dbh_cm,given,date\n" +
	"A-1," + tract + ",Old pasture,43.561,-90.638,31,Quercus alba,2026-11-20\n" +
	"A-2," + tract + ",Old pasture,43.562,-90.639,,,2026-11-20\n" +
	"A-3," + tract + ",Old pasture,430,-90.639,,,2026-11-20\n"

// put puts a file into the book and waits for it to end.
func put(t testing.TB, b *book.Book, name string, file []byte, chosen ...int) *book.Progress {
	t.Helper()
	p, err := b.ReadFile(t.Context(), name, file)
	require.NoError(t, err)
	require.NoError(t, b.PutIn(t.Context(), p.ID, p.Mapping, book.Choice{Lines: chosen}, "Wren Halloran"))
	return ended(t, b, p.ID)
}

func ended(t testing.TB, b *book.Book, id string) *book.Progress {
	t.Helper()
	var now *book.Progress
	require.Eventually(t, func() bool {
		var err error
		now, err = b.ImportProgress(id)
		return err == nil && now.Ended
	}, 2*time.Minute, 5*time.Millisecond)
	return now
}

func listOf(t testing.TB, b *book.Book, q book.Query) *book.TreeList {
	t.Helper()
	list, err := b.Trees(t.Context(), q, 500, 0)
	require.NoError(t, err)
	return list
}

func count(t testing.TB, b *book.Book, q book.Query) int {
	t.Helper()
	return listOf(t, b, q).Total
}

func TestPreviewAndPutIn(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	p, err := b.ReadFile(t.Context(), "stand.csv", []byte(table))
	require.NoError(t, err)
	require.Equal(t, []int{3, 2, 1, 0}, []int{p.Total, p.Good, p.Bad, p.Known})
	require.Equal(t, "line 4", p.Lines[0].At, "lines with problems first")
	require.Zero(t, count(t, b, book.Query{}), "a preview puts nothing in")

	require.ErrorContains(
		t,
		b.PutIn(t.Context(), p.ID, p.Mapping, book.Choice{Lines: []int{0, 2}}, ""),
		"line 4 cannot be put in",
		"a chosen line must be good",
	)
	require.NoError(t, b.PutIn(t.Context(), p.ID, p.Mapping, book.Choice{}, "Wren Halloran"))
	require.Equal(t, 2, ended(t, b, p.ID).Trees)
	lines := listOf(t, b, book.Query{Sort: "tag"}).Trees
	require.Equal(t, "Quercus alba", lines[0].Given)
	require.Equal(t, worklist.Named, lines[0].Status, "on the word of who named it: nothing was scored that speaks against it")
	require.Equal(t, 31.0, lines[0].DBH)
	require.Equal(t, 43.562, *lines[1].Lat)
	v, err := b.Visits(t.Context(), tract)
	require.NoError(t, err)
	require.Equal(t, "2026-11-20", v[0].Day)
}

// TestNeverDoubled puts a file in twice, undoes it, and puts it in again.
func TestNeverDoubled(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	require.Equal(t, 2, put(t, b, "stand.csv", []byte(table)).Trees)
	p, err := b.ReadFile(t.Context(), "stand.csv", []byte(table))
	require.NoError(t, err)
	require.Equal(t, 2, p.Known)
	require.ErrorContains(t, b.PutIn(t.Context(), p.ID, p.Mapping, book.Choice{}, ""), "no line is left")

	imports, err := b.Imports(t.Context())
	require.NoError(t, err)
	lines := listOf(t, b, book.Query{Sort: "tag"}).Trees
	add(t, b, lines[1].ID, book.Entry{Kind: "note", Note: "worked on since"})
	undone, err := b.UndoImport(t.Context(), imports[0].ID, "Wren Halloran")
	require.NoError(t, err)
	require.Equal(t, book.Undone{Aside: 1, Stay: 1}, undone)
	require.Equal(t, 1, count(t, b, book.Query{}))
	undone, err = b.UndoImport(t.Context(), imports[0].ID, "Wren Halloran")
	require.NoError(t, err)
	require.Zero(t, undone, "undone already")

	put(t, b, "stand.csv", []byte(table))
	require.Equal(t, 2, count(t, b, book.Query{}), "the tree set aside is back")
	log, err := b.LogOf(t.Context(), lines[0].ID)
	require.NoError(t, err)
	require.Len(t, logbook.Replay(log).Looks, 1, "its look came once")

	imports, err = b.Imports(t.Context())
	require.NoError(t, err)
	undone, err = b.UndoImport(t.Context(), imports[0].ID, "Wren Halloran")
	require.NoError(t, err)
	require.Equal(t, book.Undone{Back: 1}, undone, "what came back by the second reading is aside again")
	put(t, b, "stand.csv", []byte(table))
	add(t, b, lines[0].ID, book.Entry{Kind: "note", Note: "worked on after it came back"})
	imports, err = b.Imports(t.Context())
	require.NoError(t, err)
	undone, err = b.UndoImport(t.Context(), imports[0].ID, "Wren Halloran")
	require.NoError(t, err)
	require.Equal(t, book.Undone{Stay: 1}, undone)
	require.Equal(t, 2, count(t, b, book.Query{}))
	_, err = b.UndoImport(t.Context(), "nothing", "")
	require.ErrorIs(t, err, book.ErrNoImport)
}

// TestPositionsOfTreesTheBookHas reads waypoints for trees that are there: their
// positions change, nothing else, and undoing puts the old ones back.
func TestPositionsOfTreesTheBookHas(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	here, blank := started(t, b, "LC-1"), started(t, b, "LC-2")
	add(t, b, here, book.Entry{Kind: "facts", Facts: &book.SetFacts{Position: &book.Position{Lon: -90.6, Lat: 43.5}}})
	gpx := `<gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1"><wpt lat="43.561" lon="-90.631"><name>LC-1</name></wpt>
		<wpt lat="43.562" lon="-90.632"><name>LC-2</name></wpt></gpx>`
	read := func() error {
		p, err := b.ReadFile(t.Context(), "walk.gpx", []byte(gpx))
		require.NoError(t, err)
		p.Mapping.Tract, p.Mapping.Stand, p.Mapping.Date = tract, slope, "2026-11-20"
		p, err = b.Preview(t.Context(), p.ID, p.Mapping)
		require.NoError(t, err)
		require.Equal(t, []int{0, 2, 2}, []int{p.Good, p.Known, p.Placed})
		if err := b.PutIn(t.Context(), p.ID, p.Mapping, book.Choice{Positions: true}, "Wren Halloran"); err != nil {
			return err
		}
		require.Empty(t, ended(t, b, p.ID).Wrong)
		return nil
	}
	require.NoError(t, read())
	require.Equal(t, 43.561, *standing(t, b, here).Lat)
	require.ErrorContains(t, read(), "no line is left", "the same file twice is as once")
	log, err := b.LogOf(t.Context(), blank)
	require.NoError(t, err)
	require.Len(t, log, 2)
	require.Equal(t, 43.562, *standing(t, b, blank).Lat)
	imports, err := b.Imports(t.Context())
	require.NoError(t, err)
	undone, err := b.UndoImport(t.Context(), imports[0].ID, "Wren Halloran")
	require.NoError(t, err)
	require.Equal(t, book.Undone{Back: 2}, undone)
	require.Equal(t, 43.5, *standing(t, b, here).Lat, "where it was")
	require.Nil(t, standing(t, b, blank).Lat, "it had none")
	require.Equal(t, 2, count(t, b, book.Query{}))
}

// TestStoppedImportLeavesNothing stops a long file in the middle.
func TestStoppedImportLeavesNothing(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	var file strings.Builder
	file.WriteString("tag,tract,stand,date\n")
	for i := range 5000 {
		fmt.Fprintf(&file, "B-%d,%s,Old pasture,2026-11-20\n", i, tract)
	}
	p, err := b.ReadFile(t.Context(), "long.csv", []byte(file.String()))
	require.NoError(t, err)
	require.NoError(t, b.PutIn(t.Context(), p.ID, p.Mapping, book.Choice{}, ""))
	require.Eventually(t, func() bool {
		now, err := b.ImportProgress(p.ID)
		return err == nil && now.Done > 20
	}, 10*time.Second, time.Millisecond)
	require.NoError(t, b.StopImport(p.ID))
	require.Zero(t, count(t, b, book.Query{}))
}

// TestWholeForestOutAndIn writes the demo forest and reads it into an empty book:
// by the formats that carry scores every tree stands as it stood.
func TestWholeForestOutAndIn(t *testing.T) {
	t.Parallel()
	from := demotest.New(t)
	lists, err := from.Lists(t.Context())
	require.NoError(t, err)
	for name, format := range map[string]string{"forest.json": "json", "forest.zip": "dwca"} { // with the list
		var file bytes.Buffer
		require.NoError(t, from.Export(t.Context(), &file, book.Query{}, format, book.About{Title: "Lantern Creek"}))
		to := booktest.New(t)
		_, err := to.PutList(t.Context(), book.NewList{Name: lists[0].Name, Region: lists[0].Region, Taxa: lists[0].Taxa}, "")
		require.NoError(t, err)
		require.Equal(t, 400, put(t, to, name, file.Bytes()).Trees, format)
		want := listOf(t, from, book.Query{Sort: "tag"}).Trees
		got := listOf(t, to, book.Query{Sort: "tag"}).Trees
		for i := range want {
			require.Equal(t, want[i].Tag, got[i].Tag)
			require.Equal(t, want[i].Scores, got[i].Scores, want[i].Tag)
			require.InDelta(t, *want[i].Lat, *got[i].Lat, 5e-7)
			if format == "json" { // an archive has no word for what is green
				require.Equal(t, want[i].Leader, got[i].Leader, want[i].Tag)
				require.InDelta(t, want[i].LeaderPosterior, got[i].LeaderPosterior, 1e-9, want[i].Tag)
			} else {
				require.Equal(t, want[i].Given, got[i].Given, want[i].Tag)
			}
		}
	}
}

// TestEveryFormatIntoAFreshBook: each goes in at one go, and what is asked or missing is
// said.
func TestEveryFormatIntoAFreshBook(t *testing.T) {
	if testing.Short() {
		t.Skip("make nightly runs it")
	}
	t.Parallel()
	from := demotest.New(t)
	for name, format := range map[string]string{"forest.csv": "csv", "forest.xlsx": "xlsx", "forest.geojson": "geojson",
		"forest.gpx": "gpx", "forest.json": "json", "forest.zip": "dwca"} {
		var file bytes.Buffer
		require.NoError(t, from.Export(t.Context(), &file, book.Query{}, format, book.About{Title: "Lantern Creek"}))
		to := booktest.New(t)
		p, err := to.ReadFile(t.Context(), name, file.Bytes())
		require.NoError(t, err)
		if format == "gpx" {
			require.Equal(t, []string{"tract"}, p.Asks)
			require.Contains(t, p.Wrong, "which tract")
			p.Mapping.Tract = tract
			p, err = to.Preview(t.Context(), p.ID, p.Mapping)
			require.NoError(t, err)
		} else {
			require.Equal(t, "Lantern Creek", p.Lacks[0].List, format)
		}
		require.Empty(t, p.Asks, format)
		require.Equal(t, []int{400, 0}, []int{p.Good, p.Bad}, format)
		require.NoError(t, to.PutIn(t.Context(), p.ID, p.Mapping, book.Choice{}, ""))
		require.Equal(t, 400, ended(t, to, p.ID).Trees, format)
	}
}

// TestNamesAreRemembered: what a name in a file was said to stand for is known to the next
// file.
func TestNamesAreRemembered(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	file := func(tag string) []byte {
		return []byte("tag,tract,stand,species,date\n" + tag + "," + tract + ",Old pasture,Red oak,2026-11-20\n")
	}
	p, err := b.ReadFile(t.Context(), "a.csv", file("A-1"))
	require.NoError(t, err)
	require.Equal(t, 1, p.Bad)
	require.Equal(t, "Red oak", p.Doubts[0].Written)
	require.Equal(t, 1, p.Doubts[0].Lines)
	require.Equal(t, "northern red oak", p.Doubts[0].Suggests[0].Words)
	p.Mapping.Names = map[string]book.Meant{"Red oak": p.Doubts[0].Suggests[0].Meant}
	require.NoError(t, b.PutIn(t.Context(), p.ID, p.Mapping, book.Choice{}, ""))
	require.Equal(t, 1, ended(t, b, p.ID).Trees)
	require.Equal(t, "Quercus rubra", listOf(t, b, book.Query{}).Trees[0].Given)
	p, err = b.ReadFile(t.Context(), "b.csv", file("A-2"))
	require.NoError(t, err)
	require.Equal(t, []int{1, 0}, []int{p.Good, len(p.Doubts)})
}

// TestHedgedNamesComeIn: what a file hedges is hedged in the book and in its files, until
// somebody looks.
func TestHedgedNamesComeIn(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	file := "tag,tract,stand,species,qualifier,date\nA-1," + tract + ",Cove,Quercus cf. rubra,,2026-11-20\n" +
		"A-2," + tract + ",Cove,Quercus rubra,?,2026-11-20\nA-3," + tract + ",Cove,Quercus rubra,,2026-11-20\n"
	p, err := b.ReadFile(t.Context(), "a.csv", []byte(file))
	require.NoError(t, err)
	require.Equal(t, "cf. Quercus rubra", p.Lines[0].Name)
	require.Equal(t, 3, put(t, b, "a.csv", []byte(file)).Trees)
	for tag, want := range map[string][]string{
		"A-1": {"Quercus rubra", "cf.", worklist.Probable},
		"A-2": {"Quercus rubra", "?", worklist.Doubtful},
		"A-3": {"Quercus rubra", "", worklist.Named},
	} {
		require.Equal(t, want, three(exported(t, b, tag)), tag)
	}
	l := listOf(t, b, book.Query{Status: []string{worklist.Probable}}).Trees[0]
	require.Equal(t, "probably northern red oak", l.GivenWords)
	tree := l.ID
	looked := add(t, b, tree, book.Entry{Kind: "look", From: "tree"})
	add(t, b, tree, book.Entry{Kind: "score", Look: looked,
		Score: &book.Score{Character: "bark.texture", States: []string{"warty-ridges"}, Certainty: "sure"}})
	require.Equal(t, []string{"Quercus rubra", "?", worklist.Doubtful}, three(exported(t, b, "A-1")))
}

func TestOnlySoManyFilesWait(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	for range 8 {
		_, err := b.ReadFile(t.Context(), "stand.csv", []byte(table))
		require.NoError(t, err)
	}
	_, err := b.ReadFile(t.Context(), "stand.csv", []byte(table))
	require.ErrorContains(t, err, "several files wait")
	_, err = b.Preview(context.Background(), "nothing", book.Mapping{})
	require.ErrorIs(t, err, book.ErrFileGone)
}

// TestTreesThatAreAlike are weighed as one when their list changes, and come to what each
// would alone; those that carry a name or more scores are weighed by themselves.
func TestTreesThatAreAlike(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	list := ours(t, b)
	file := "tag,tract,stand,dbh_cm,age,given,date,list\n"
	for i := range 12 {
		file += fmt.Sprintf("A-%d,%s,%s,%d,%s,%s,2026-11-20,%s\n", i, tract, slope, 20+i%2, []string{"", "old"}[i%2],
			[]string{"", "", "Acer rubrum"}[i%3], list.Name)
	}
	require.Equal(t, 12, put(t, b, "stand.csv", []byte(file)).Trees)
	trees := listOf(t, b, book.Query{}).Trees
	more := trees[4].ID
	scored(t, b, more, look(t, b, more, "tree"), "bark.texture", "smooth")
	before := standing(t, b, trees[0].ID)
	composed, err := b.Composition(t.Context(), tract, slope)
	require.NoError(t, err)

	list.Taxa["Acer rubrum"], list.Taxa["Populus tremuloides"] = "rare", "abundant"
	_, err = b.PutList(t.Context(), list, "")
	require.NoError(t, err)
	b.Settle()
	require.Equal(t, book.Weighing{Done: 12}, b.Weighing())
	for _, l := range trees {
		kept, reckoned := standing(t, b, l.ID), must(b.Reckoned(t.Context(), l.ID))
		reckoned.Posteriors, reckoned.Common, reckoned.Alike = nil, nil, ""
		if reckoned.Candidates == nil {
			reckoned.Candidates = store.Names{}
		}
		require.Equal(t, reckoned, kept, l.Tag)
	}
	require.NotEqual(t, before.Basis, standing(t, b, trees[0].ID).Basis)
	again, err := b.Composition(t.Context(), tract, slope)
	require.NoError(t, err)
	require.NotEqual(t, composed.Shares[0].Stems, again.Shares[0].Stems, "sums follow")
}

func must[T any](v T, err error) T {
	if err != nil {
		panic(err)
	}
	return v
}

// TestAFileIsMendedInThePage: what is wrong is said once with its lines, and a cell is mended without the file.
func TestAFileIsMendedInThePage(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	p, err := b.ReadFile(t.Context(), "cruise.csv", []byte("Tree No,Species,Lat,Long,Date\n1,sugr maple,43.56,-90.63,2026-11-20\n"+
		"2,sugr maple,43.56,-90.63,2026-11-20\n3,QUAL,43.56,north,2026-11-20\n4,QUAL,43.56,-90.63,2026-11-20\n"))
	require.NoError(t, err)
	require.Equal(t, [][]string{{"1", "2", "3"}, {"sugr maple", "QUAL"}, {"43.56"}, {"-90.63", "north"}, {"2026-11-20"}}, p.Samples)
	m := p.Mapping
	m.Tract, m.Stand = tract, slope
	p, err = b.Preview(t.Context(), p.ID, m)
	require.NoError(t, err)
	require.Len(t, p.Faults, 2)
	require.Equal(t, 2, p.Faults[0].Lines)
	require.Equal(t, []string{"line 2", "line 3"}, p.Faults[0].At)
	require.Equal(t, []string{"3", "QUAL", "43.56", "north", "2026-11-20"}, p.Lines[2].Cells)
	m.Mends = map[int]map[int]string{0: {1: "sugar maple"}, 2: {3: "-90.64"}}
	p, err = b.Preview(t.Context(), p.ID, m)
	require.NoError(t, err)
	require.Equal(t, []int{3, 1}, []int{p.Good, p.Bad})
	require.NoError(t, b.PutIn(t.Context(), p.ID, m, book.Choice{}, ""))
	require.Equal(t, 3, ended(t, b, p.ID).Trees)
	require.Equal(t, "Acer saccharum", exported(t, b, "1")["given"])
}
