package book_test

import (
	"fmt"
	"io"
	"strings"
	"testing"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
)

// newIn starts a tree in a stand that may be new.
func newIn(t *testing.T, b *book.Book, tag, tract, stand string) string {
	t.Helper()
	id := ulid.Make().String()
	_, err := b.AddTree(t.Context(), book.NewTree{ID: id, Tag: tag, Tract: tract, Stand: stand, New: true})
	require.NoError(t, err)
	return id
}

func viewed(t *testing.T, b *book.Book, tree string) *book.TreeView {
	t.Helper()
	v, err := b.View(t.Context(), tree)
	require.NoError(t, err)
	return v
}

func standsOf(t *testing.T, b *book.Book) (names []string) {
	t.Helper()
	stands, err := b.Stands(t.Context())
	require.NoError(t, err)
	for _, s := range stands {
		names = append(names, s.Tract+"/"+s.Name)
	}
	return names
}

// TestOneNameWrittenTwice: names differ by more than letter case and spaces, whatever way they come.
func TestOneNameWrittenTwice(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	first := newIn(t, b, "A-1", "Home Woods", "North cove")
	for _, tag := range []string{"a-1", "A-1", " A- 1"} {
		_, err := b.AddTree(t.Context(), book.NewTree{ID: ulid.Make().String(), Tag: tag, Tract: "home woods", Stand: "NORTH  cove"})
		require.ErrorIs(t, err, book.ErrTagTaken, tag)
	}
	second := ulid.Make().String()
	v, err := b.AddTree(t.Context(), book.NewTree{ID: second, Tag: "A-2", Tract: "homewoods", Stand: "north Cove"})
	require.NoError(t, err)
	require.Equal(t, "Home Woods/North cove", v.Tree.Tract+"/"+v.Tree.Stand)
	_, err = b.MoveTree(t.Context(), second, book.Move{Tag: "a-1", Tract: "Home Woods", Stand: "North cove"})
	require.ErrorIs(t, err, book.ErrTagTaken)
	_, err = b.MoveTree(t.Context(), first, book.Move{Tag: "a-1", Tract: "Home Woods", Stand: "North cove"})
	require.NoError(t, err, "one's own tag may be written otherwise")

	p, err := b.ReadFile(t.Context(), "trees.csv", []byte("tag,tract,stand,date\nA-2,home woods,north cove,2026-11-29\nA-3,HOME WOODS,north cove,2026-11-29\n"+
		"a-3,Home woods,North cove,2026-11-29\n"))
	require.NoError(t, err)
	require.Equal(t, 1, p.Known)
	require.Equal(t, 1, p.Good)
	require.Equal(t, 1, p.Bad, "the third line's tag is the second's")
	require.Empty(t, p.Fresh)
	require.Equal(t, []string{"Home Woods/North cove"}, standsOf(t, b))

	away := booktest.New(t) // where nobody knows of the other's names
	newIn(t, away, "a-1", "home woods", "north cove")
	meet(t, b, "", all(t, away)...)
	require.Equal(t, []string{"Home Woods/North cove"}, standsOf(t, b))
	lines, err := b.Trees(t.Context(), book.Query{Tract: "Home Woods", Stand: "North cove"}, 10, 0)
	require.NoError(t, err)
	require.Len(t, lines.Trees, 3)
	require.Len(t, viewed(t, b, first).SameTag, 1, "one of the two is to be given another tag")
}

// TestANewPlaceIsAskedAbout: a slip makes no stand, in no way to one.
func TestANewPlaceIsAskedAbout(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree := newIn(t, b, "A-1", "Home Woods", "North cove")
	_, err := b.AddTree(t.Context(), book.NewTree{ID: ulid.Make().String(), Tag: "A-2", Tract: "Home Woods", Stand: "Nort cove"})
	require.ErrorContains(t, err, "there is no stand “Nort cove” in Home Woods yet. Do you mean North cove?")
	require.Equal(t, "new", book.FieldsOf(err)[0].Field)
	_, err = b.AddTree(t.Context(), book.NewTree{ID: ulid.Make().String(), Tag: "A-2", Tract: "Home Wods", Stand: "North cove"})
	require.ErrorContains(t, err, "there is no tract “Home Wods” yet. Do you mean Home Woods?")
	_, err = b.MoveTree(t.Context(), tree, book.Move{Tag: "A-1", Tract: "Home Woods", Stand: "Rim"})
	require.ErrorContains(t, err, "there is no stand “Rim” in Home Woods yet. Choose one")
	require.Error(t, b.PutStand(t.Context(), book.NewStand{Tract: "Home Woods", Stand: "Rim"}, ""))
	require.Error(t, b.PutVisit(t.Context(), book.Visit{ID: ulid.Make().String(), Tract: "Elsewhere", Day: "2026-11-29"}, ""))
	require.Equal(t, []string{"Home Woods/North cove"}, standsOf(t, b))

	p, err := b.ReadFile(t.Context(), "trees.csv", []byte("tag,tract,stand,date\nA-2,Home Woods,Nort cove,2026-11-29\nA-3,Home Woods,nort cove,2026-11-29\n"))
	require.NoError(t, err)
	require.Equal(t, []book.FreshPlace{{Tract: "Home Woods", Stand: "Nort cove", Near: "North cove", Lines: 2}}, p.Fresh)
}

// TestRename: trees, plots, visits and what is said of a place go along, also to a device.
func TestRename(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	one, two := newIn(t, b, "A-1", "Home Woods", "Nort cove"), newIn(t, b, "A-2", "Home Woods", "North cove")
	look(t, b, one, "tree")
	require.NoError(t, b.PutStand(t.Context(), book.NewStand{Tract: "Home Woods", Stand: "Nort cove", Remarks: "Steep"}, ""))
	plot := book.Plot{ID: ulid.Make().String(), Tract: "Home Woods", Stand: "Nort cove", Name: "P1", Day: "2026-11-29", Factor: "2 m2/ha"}
	require.NoError(t, b.PutPlot(t.Context(), plot, ""))

	r := book.Rename{Tract: "Home Woods", Stand: "Nort cove", To: "north cove"}
	require.ErrorContains(t, b.Rename(t.Context(), r, ""), "there is North cove already")
	r.Merge = true
	require.NoError(t, b.Rename(t.Context(), r, "Marit Sandoval"))
	require.Equal(t, []string{"Home Woods/North cove"}, standsOf(t, b))
	require.Equal(t, "North cove", viewed(t, b, one).Tree.Stand)

	require.NoError(t, b.Rename(t.Context(), book.Rename{Tract: "home woods", To: "Upper Woods"}, "Marit Sandoval"))
	require.Equal(t, []string{"Upper Woods/North cove"}, standsOf(t, b))
	m, err := b.Map(t.Context())
	require.NoError(t, err)
	require.Len(t, m.Tracts, 1)
	require.Equal(t, "Steep", m.Stands[0].Remarks)
	require.Equal(t, 2, m.Stands[0].Trees)
	plots, err := b.Plots(t.Context(), "Upper Woods", "North cove")
	require.NoError(t, err)
	require.Len(t, plots.Points, 1)
	visits, err := b.Visits(t.Context(), "Upper Woods")
	require.NoError(t, err)
	require.Len(t, visits, 1)
	require.Equal(t, 1, visits[0].Looks)
	look(t, b, two, "tree") // and all goes on

	require.NoError(t, b.Rename(t.Context(), book.Rename{Tract: "Upper Woods", Stand: "North cove", To: "NORTH cove"}, ""), "only written otherwise")
	require.Equal(t, []string{"Upper Woods/NORTH cove"}, standsOf(t, b))

	away := booktest.New(t)
	meet(t, away, "", all(t, b)...)
	require.Equal(t, standsOf(t, b), standsOf(t, away))
	require.Equal(t, shown(t, b, one), shown(t, away, one))
	require.ErrorIs(t, b.Rename(t.Context(), r, ""), book.ErrNoPlace)
}

// TestTractsThatShareATag: two trees of one tag do not come into one tract.
func TestTractsThatShareATag(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	newIn(t, b, "A-1", "Home Woods", "Cove")
	newIn(t, b, "a-1", "Creek Woods", "Rim")
	err := b.Rename(t.Context(), book.Rename{Tract: "Creek Woods", To: "Home Woods", Merge: true}, "")
	require.ErrorContains(t, err, "both tracts have a tree a-1")
	require.Equal(t, []string{"Creek Woods/Rim", "Home Woods/Cove"}, standsOf(t, b), "nothing is half moved")
}

// TestRemovePlace takes out what is empty, and nothing else.
func TestRemovePlace(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree := newIn(t, b, "A-1", "Home Woods", "Cove")
	require.ErrorContains(t, b.RemovePlace(t.Context(), "Home Woods", "Cove", ""), "Cove is not empty")
	_, err := b.MoveTree(t.Context(), tree, book.Move{Tag: "A-1", Tract: "Home Woods", Stand: "Rim", New: true})
	require.NoError(t, err)
	require.NoError(t, b.RemovePlace(t.Context(), "Home Woods", "cove", ""))
	require.Equal(t, []string{"Home Woods/Rim"}, standsOf(t, b))
	require.ErrorContains(t, b.RemovePlace(t.Context(), "Home Woods", "", ""), "Home Woods is not empty")
	require.ErrorIs(t, b.RemovePlace(t.Context(), "Home Woods", "Cove", ""), book.ErrNoPlace)

	newIn(t, b, "A-2", "Home Woods", "Cove") // the name is free again, and nothing of the old one is taken for it
	stands, err := b.Stands(t.Context())
	require.NoError(t, err)
	require.Equal(t, 1, stands[0].Trees)
	require.NoError(t, b.PutTract(t.Context(), book.NewTract{Tract: "Elsewhere", New: true}, ""))
	require.NoError(t, b.RemovePlace(t.Context(), "Elsewhere", "", ""))
	m, err := b.Map(t.Context())
	require.NoError(t, err)
	require.Len(t, m.Tracts, 1)
}

// TestSavedNamesAddUp: trees that came with a name count as that name in sums and reports, as in lists.
func TestSavedNamesAddUp(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	var file strings.Builder
	file.WriteString("tag,tract,stand,species,date\n")
	for i := range 30 {
		fmt.Fprintf(&file, "A-%d,Home Woods,Cove,red maple,2026-11-29\n", i)
	}
	for i := range 10 {
		fmt.Fprintf(&file, "B-%d,Home Woods,Cove,Quercus sp.,2026-11-29\n", i)
	}
	require.Equal(t, 40, put(t, b, "cruise.csv", []byte(file.String())).Trees)
	r, err := b.Report(t.Context(), "home woods", "cove")
	require.NoError(t, err)
	oaks := 0.0
	for _, s := range r.Composition.Shares {
		if strings.HasPrefix(s.Taxon, "Quercus") {
			oaks += s.Stems
		} else {
			require.Equal(t, "Acer rubrum", s.Taxon)
			require.InDelta(t, 30, s.Stems, 1e-6)
		}
	}
	require.InDelta(t, 10, oaks, 1e-6, "an oak is one of the oaks")
	_, err = b.Report(t.Context(), "Home Wods", "")
	require.ErrorIs(t, err, book.ErrNoPlace)
	require.ErrorIs(t, b.Export(t.Context(), io.Discard, book.Query{Tract: "Elsewhere"}, "csv", book.About{}), book.ErrNoPlace)
}
