package book_test

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"image"
	"image/jpeg"
	"os"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/tree/logbook"
	"palethicket/demo/demotest"
)

// TestTenAtOnce: ten undo one withdrawal at the same moment; the look is there once, and
// nine are told.
func TestTenAtOnce(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree := started(t, b, "LC-1")
	l := look(t, b, tree, "tree")
	scored(t, b, tree, l, "bark.texture", "smooth")
	gone := add(t, b, tree, book.Entry{Kind: "withdraw", Entry: l})
	errs := make([]error, 10)
	var wg sync.WaitGroup
	for i := range errs {
		wg.Go(func() { _, errs[i] = undone(t, b, tree, gone, "Wren Halloran") })
	}
	wg.Wait()
	refused := 0
	for _, err := range errs {
		if err != nil {
			require.ErrorContains(t, err, "undone already; nothing was changed")
			refused++
		}
	}
	require.Equal(t, 9, refused)
	v, err := b.View(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, v.Looks, 1)
	require.Equal(t, l, v.Looks[0].ID, "whole and in its place")
	require.Len(t, v.Looks[0].Scores, 1)
}

// TestATableFromTheFuture: a line dated 2062 does not rule what is entered today.
func TestATableFromTheFuture(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	put(t, b, "future.csv", []byte("tag,tract,stand,date,remarks,lat,lon\nA-1,"+tract+","+slope+",2062-01-01,old,43.5,-90.6\n"))
	tree := listOf(t, b, book.Query{}).Trees[0].ID
	remarks := "new"
	add(t, b, tree, book.Entry{Kind: "facts", Facts: &book.SetFacts{Remarks: &remarks, Position: &book.Position{Lat: 44, Lon: -90}}})
	st := standing(t, b, tree)
	require.Equal(t, "new", st.Remarks)
	require.Equal(t, 44.0, *st.Lat)
	log, err := b.LogOf(t.Context(), tree)
	require.NoError(t, err)
	require.WithinDuration(t, time.Now(), log[0].Stamp.Time(), time.Minute)
	visits, err := b.Visits(t.Context(), tract)
	require.NoError(t, err)
	require.Empty(t, visits, "nothing was looked at then")
}

// TestAVisitOfAnotherTract: sent again with another tract it is changed while it has no
// looks, refused once it has, and never leaves a tract behind.
func TestAVisitOfAnotherTract(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree := started(t, b, "LC-1")
	v := book.Visit{ID: ulid.Make().String(), Tract: tract, Day: "2026-11-17", Snow: "none"}
	require.NoError(t, b.PutVisit(t.Context(), v, ""))
	require.NoError(t, b.PutTract(t.Context(), book.NewTract{Tract: "Another", New: true}, ""))
	v.Tract = "Another"
	require.NoError(t, b.PutVisit(t.Context(), v, ""))
	visits, err := b.Visits(t.Context(), "Another")
	require.NoError(t, err)
	require.Len(t, visits, 1)
	v.Tract = tract
	require.NoError(t, b.PutVisit(t.Context(), v, ""))
	add(t, b, tree, book.Entry{Kind: "look", From: "tree", Visit: v.ID})
	v.Tract = "Another"
	require.ErrorContains(t, b.PutVisit(t.Context(), v, ""), "this visit has looks in "+tract)
	v.Tract = "A third"
	require.ErrorContains(t, b.PutVisit(t.Context(), v, ""), "there is no tract “A third”")
	m, err := b.Map(t.Context())
	require.NoError(t, err)
	for _, where := range m.Tracts {
		require.NotEqual(t, "A third", where.Tract)
	}
	_, err = b.AddEntry(t.Context(), tree, &book.Entry{ID: ulid.Make().String(), Kind: "look", From: "tree", Visit: ulid.Make().String()})
	require.ErrorIs(t, err, book.ErrNoVisit)
}

// TestAListDroppedMeanwhile: trees are started among a list while it is dropped: either
// the tree is refused or the list stays, and the book goes on.
func TestAListDroppedMeanwhile(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	for i := range 12 {
		list := ours(t, b)
		var wg sync.WaitGroup
		var started, dropped error
		wg.Go(func() {
			_, started = b.AddTree(
				t.Context(),
				book.NewTree{ID: ulid.Make().String(), Tag: fmt.Sprint("LC-", i), Tract: tract, Stand: slope, List: list.Name},
			)
		})
		wg.Go(func() { dropped = b.DropList(t.Context(), list.Name, "") })
		wg.Wait()
		if started == nil {
			require.ErrorIs(t, dropped, book.ErrListInUse)
			break
		}
		require.Contains(t, book.FieldsOf(started)[0].Field, "list")
		require.NoError(t, dropped)
	}
	b.Settle()
	for _, l := range listOf(t, b, book.Query{}).Trees {
		require.NotEqual(t, "unreadable", l.Status)
	}
	_, err := b.PutList(
		t.Context(),
		book.NewList{Name: "Another", Region: "eastern-north-america", Table: "taxon,abundance\nTilia americana,common\nAcer rubrum,rare\n"},
		"",
	)
	require.NoError(t, err)
}

// TestADamagedPhotograph breaks its reader eight times: each is refused, and the next
// good one is taken.
func TestADamagedPhotograph(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree := started(t, b, "LC-1")
	good, err := os.ReadFile("../core/tree/photo/testdata/turned.jpg")
	require.NoError(t, err)
	bad := bytes.Replace(good, []byte("\x90\x03\x00\x02"), []byte("\x90\x03\x00\x03"), 1)
	require.NotEqual(t, good, bad)
	keep := func(file []byte) error {
		_, err := b.AddPhoto(t.Context(), book.NewPhoto{ID: ulid.Make().String(), Tree: tree, ReadPosition: true}, bytes.NewReader(file))
		return err
	}
	for range 8 {
		var refused *book.FileError
		require.ErrorAs(t, keep(bad), &refused)
	}
	require.NoError(t, keep(good))
	photos, err := b.Photos(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, photos, 1)
}

func greyPhoto(t *testing.T) []byte {
	t.Helper()
	var file bytes.Buffer
	require.NoError(t, jpeg.Encode(&file, image.NewGray(image.Rect(0, 0, 80, 60)), nil))
	return file.Bytes()
}

// TestAPhotographIsMended: one whose file was damaged is whole once it is sent again.
func TestAPhotographIsMended(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree := started(t, b, "LC-1")
	file := greyPhoto(t)
	n := book.NewPhoto{ID: ulid.Make().String(), Tree: tree}
	_, err := b.AddPhoto(t.Context(), n, bytes.NewReader(file))
	require.NoError(t, err)
	path, err := b.PhotoPath(t.Context(), n.ID)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(path, []byte("damaged"), 0o600))
	_, err = b.AddPhoto(t.Context(), n, bytes.NewReader(file))
	require.NoError(t, err)
	whole, _, err := booktest.ReadPhoto(t, b, n.ID, false)
	require.NoError(t, err)
	require.Equal(t, file, whole)
	require.NoError(t, os.Remove(path))
	_, _, err = booktest.ReadPhoto(t, b, n.ID, false)
	require.ErrorIs(t, err, book.ErrNoPhoto, "a file that is not there is no error of the program's")
}

// TestPreviewAndPuttingInAgree: what is called good goes in, all of it; what is not is
// refused with what the preview said.
func TestPreviewAndPuttingInAgree(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	file := "tag,tract,stand,given,rank,region,date\n" +
		"A\u200b-1," + tract + "," + slope + ",,,,2026-01-10\n" + // taken for A-1
		"A-1 ," + tract + "," + slope + ",,,,2026-01-10\n" + // and so is this
		"A-2," + tract + ",\u3164,,,,2026-01-10\n" + // no stand that can be seen
		"A-3," + tract + "," + slope + ",Quercus alba,species,british-isles,2026-01-10\n" + // not among the trees there
		"A-4," + tract + "," + slope + ",Fagaceae,family,,1624-01-10\n" +
		"A-5," + tract + "," + slope + ",Quercus alba,genus,,2026-01-10\n" // no genus of that name
	file = strings.NewReplacer(`\u200b`, "\u200b", `\u3164`, "\u3164").Replace(file)
	p, err := b.ReadFile(t.Context(), "stand.csv", []byte(file))
	require.NoError(t, err)
	require.Equal(t, []int{2, 4}, []int{p.Good, p.Bad})
	for _, l := range p.Lines[:p.Bad] {
		err := b.PutIn(t.Context(), p.ID, p.Mapping, book.Choice{Lines: []int{l.Line}}, "")
		require.ErrorContains(t, err, l.Problems[0], l.At)
	}
	require.NoError(t, b.PutIn(t.Context(), p.ID, p.Mapping, book.Choice{}, ""))
	now := ended(t, b, p.ID)
	require.Empty(t, now.Wrong)
	require.Equal(t, 2, now.Trees)
	tags := []string{}
	for _, l := range listOf(t, b, book.Query{Sort: "tag"}).Trees {
		tags = append(tags, l.Tag)
	}
	require.Equal(t, []string{"A-1", "A-4"}, tags)
}

// TestImportsCutShort: what a file that was being put in when the power went left
// behind is taken out, but for what others added to.
func TestImportsCutShort(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	before, _ := hackberry(t, b, "LC-1")
	var file strings.Builder
	file.WriteString("tag,tract,stand,date,dbh_cm\n")
	for i := range 250 {
		fmt.Fprintf(&file, "B-%d,%s,Old pasture,2026-11-20,30\n", i, tract)
	}
	put(t, b, "long.csv", []byte(file.String()))
	trees := listOf(t, b, book.Query{Stand: "Old pasture"})
	require.Equal(t, 250, trees.Total)
	add(t, b, trees.Trees[7].ID, book.Entry{Kind: "note", Note: "worked on"})
	imports, err := b.Imports(t.Context())
	require.NoError(t, err)
	require.NoError(t, b.CutShort(t.Context(), imports[0].ID))
	imports, err = b.Imports(t.Context())
	require.NoError(t, err)
	require.Empty(t, imports)
	require.Equal(t, 2, count(t, b, book.Query{}), "the one that was worked on stays")
	require.Equal(t, "ready", standing(t, b, before).Status)
	visits, err := b.Visits(t.Context(), tract)
	require.NoError(t, err)
	require.Len(t, visits, 2)
	again := put(t, b, "long.csv", []byte(file.String()))
	require.Equal(t, 249, again.Trees)
}

// TestCalendarFile: lines end as RFC 5545 says and are folded at 75 bytes.
func TestCalendarFile(t *testing.T) {
	t.Parallel()
	text, err := demotest.New(t).ICalendar(t.Context(), book.Query{})
	require.NoError(t, err)
	lines := strings.Split(strings.TrimSuffix(text, "\r\n"), "\r\n")
	require.Greater(t, len(lines), 20)
	for _, l := range lines {
		require.NotContains(t, l, "\n")
		require.LessOrEqual(t, len(l), 75)
	}
}

// TestWhoeverLeft: what they asked for stops, wherever it is.
func TestWhoeverLeft(t *testing.T) {
	t.Parallel()
	b := demotest.New(t)
	ctx, leave := context.WithCancel(t.Context())
	written := 0
	err := b.Export(ctx, writing(func(p []byte) (int, error) {
		if written += len(p); written > 20_000 {
			leave()
		}
		return len(p), nil
	}), book.Query{}, "json", book.About{})
	require.ErrorIs(t, err, context.Canceled)
	require.Less(t, written, 60_000, "it did not go on")
	_, err = b.Story(ctx, listOf(t, b, book.Query{}).Trees[0].ID)
	require.ErrorIs(t, err, context.Canceled)
	_, err = b.Composition(ctx, "", "")
	require.ErrorIs(t, err, context.Canceled)
	_, err = b.ReadFile(ctx, "stand.csv", []byte(table))
	require.ErrorIs(t, err, context.Canceled)
	for range 9 {
		_, err = b.ReadFile(ctx, "stand.csv", []byte(table))
		require.ErrorIs(t, err, context.Canceled, "what nobody waits for takes no place")
	}
}

type writing func([]byte) (int, error)

func (w writing) Write(p []byte) (int, error) { return w(p) }

// TestAClaimedDigest: somebody claims another's photograph, by its digest, and sends something
// else. The other's file arrives all the same.
func TestAClaimedDigest(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree := started(t, b, "LC-1")
	file := greyPhoto(t)
	sum := sha256.Sum256(file)
	put := func(bytes int) string {
		e := logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindPhoto, By: "Ada",
			Photo: &logbook.Photo{Digest: hex.EncodeToString(sum[:]), Kind: "image/jpeg", Bytes: bytes}}
		require.Equal(t, map[string]int{book.Taken: 1}, meet(t, b, "Ada", sent(t, tree, e)))
		return e.ID
	}
	claimed, own := put(len(file)+10), put(len(file))
	_, err := b.PhotoPiece(t.Context(), claimed, 0, []byte("something else"))
	require.NoError(t, err)
	got, err := b.PhotoPiece(t.Context(), own, 0, file)
	require.NoError(t, err)
	require.True(t, got.Whole)
	other := logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindPhoto, By: "Ada",
		Photo: &logbook.Photo{Digest: strings.Repeat("a", 64), Kind: "image/png", Bytes: book.PhotoMost + 1}}
	require.Equal(t, map[string]int{book.Taken: 1}, meet(t, b, "Ada", sent(t, tree, other)))
	_, err = b.PhotoPiece(t.Context(), other.ID, 0, []byte("x"))
	var refused *book.FileError
	require.ErrorAs(t, err, &refused, "it is larger than any photograph")
}
