package book_test

import (
	"bytes"
	"image"
	"image/png"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/tree/answer"
	"palethicket/demo/demotest"
)

const home = "eastern-north-america"

var homeRegion = book.Among{Region: home}

func TestVocabularySaysEveryWordOnce(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	ours(t, b)
	v := b.Vocabulary()
	require.Equal(t, home, v.Regions[0].ID)
	require.Equal(t, "Lantern Creek", v.Amongs[len(v.Amongs)-1].List, "lists come after the regions")
	var froms []string
	for _, f := range v.Froms {
		froms = append(froms, f.ID)
	}
	characters := 0
	for _, s := range v.Sections {
		require.NotEmpty(t, s.Words)
		for _, c := range s.Characters {
			characters++
			require.Equal(t, s.ID, c.Section)
			require.Contains(t, froms, c.From, c.ID)
			for _, st := range c.States {
				require.NotEmpty(t, st.Words, c.ID)
			}
		}
	}
	require.Len(t, b.Flora().Characters, characters)
	for _, n := range v.Names {
		require.NotEmpty(t, n.Words, n.Name)
	}
	require.Equal(t, []string{"lead", "observer", "reader"}, v.Roles)
}

func TestFloraPages(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	all, err := b.Taxa(homeRegion, nil)
	require.NoError(t, err)
	chambered, err := b.Taxa(homeRegion, []string{"twig.pith:chambered"})
	require.NoError(t, err)
	require.Less(t, len(chambered), len(all))
	has := func(lines []book.TaxonLine, name string) bool {
		return slices.ContainsFunc(lines, func(l book.TaxonLine) bool { return l.Name == name && l.Known })
	}
	require.True(t, has(chambered, "Juglans nigra"))
	require.False(t, has(chambered, "Quercus rubra"))
	_, err = b.Taxa(homeRegion, []string{"twig.pith:chamberd"})
	require.ErrorContains(t, err, `did you mean "chambered"?`)

	page, err := b.Taxon("Fraxinus nigra")
	require.NoError(t, err)
	require.Contains(t, page.English, "black ash")
	require.NotEmpty(t, page.Sections)
	require.NotEmpty(t, page.Sources)
	require.NotEmpty(t, page.Alike)
	_, err = b.Taxon("Fraxinus nigrum")
	require.ErrorIs(t, err, book.ErrNoTaxon)

	c, err := b.Character("twig.pith", homeRegion)
	require.NoError(t, err)
	require.NotEmpty(t, c.States)
	for _, s := range c.States {
		for i := 1; i < len(s.Taxa); i++ {
			require.GreaterOrEqual(t, s.Taxa[i-1].Chance, s.Taxa[i].Chance, "those that show it most often first")
		}
	}
	long, err := b.Character("bud.length", homeRegion)
	require.NoError(t, err)
	require.NotEmpty(t, long.Ranges)
	require.Contains(t, long.Ranges[0].Words, "mm")
	_, err = b.Character("twig.pth", homeRegion)
	require.ErrorIs(t, err, book.ErrNoCharacter)

	plates, err := b.Plates(homeRegion)
	require.NoError(t, err)
	require.Len(t, plates, len(all))
	one, err := b.Plate("Juglans nigra", home, "mature", "breast", 0)
	require.NoError(t, err)
	require.Equal(t, "black walnut", one.English)
	odd, err := b.Plate("Juglans nigra", home, "mature", "breast", 7)
	require.NoError(t, err)
	again, err := b.Plate("Juglans nigra", home, "mature", "breast", 7)
	require.NoError(t, err)
	require.Equal(t, odd, again, "the same number draws the same specimen")

	beside, err := b.Beside(homeRegion, []string{"Juglans nigra", "Juglans cinerea"})
	require.NoError(t, err)
	require.Len(t, beside.Plates, 2)
	require.NotEmpty(t, beside.Lines)
	require.True(t, slices.IsSortedFunc(beside.Rows, func(a, b book.Difference) int { return int(1e6 * (b.Bits - a.Bits)) }))

	found := b.FindNames("sycamore")
	require.Contains(t, found.Ambiguous, "2")
	require.NotNil(t, b.FindNames("opposite trees").Rule)
	require.Empty(t, b.FindNames("no such tree").Hits)
}

func TestQuestionsAboutATree(t *testing.T) {
	t.Parallel()
	b := demotest.New(t)
	list, err := b.Trees(t.Context(), book.Query{Text: "LC-201"}, 1, 0)
	require.NoError(t, err)
	ash := list.Trees[0].ID

	c, err := b.Compare(t.Context(), ash, "Fraxinus americana", "Fraxinus pennsylvanica")
	require.NoError(t, err)
	sum := c.PriorBits
	for _, l := range c.Looks {
		sum += l.Bits
	}
	require.InDelta(t, c.Bits, sum, 1e-9, "the prior and the looks add up")
	back, err := b.Compare(t.Context(), ash, "Fraxinus pennsylvanica", "Fraxinus americana")
	require.NoError(t, err)
	require.InDelta(t, c.Bits, -back.Bits, 1e-9)
	leading, err := b.Compare(t.Context(), ash, "", "")
	require.NoError(t, err)
	require.Equal(t, list.Trees[0].Leader, leading.A)
	require.GreaterOrEqual(t, leading.Bits, 0.0, "the leader over the runner-up")
	_, err = b.Compare(t.Context(), ash, "Fraxinus americanum", "")
	require.ErrorContains(t, err, `did you mean "Fraxinus americana"?`)

	w, err := b.WhyNot(t.Context(), ash, "Fraxinus pennsylvanica")
	require.NoError(t, err)
	require.Equal(t, 2, w.Place)
	require.NotEmpty(t, w.Against)
	first, err := b.WhyNot(t.Context(), ash, w.Leader)
	require.NoError(t, err)
	require.Equal(t, 1, first.Place)
	require.Empty(t, first.Against)

	walk, err := b.Walk(t.Context(), ash, nil)
	require.NoError(t, err)
	require.Len(t, walk.Question.Options, 2)
	skipped, err := b.Walk(t.Context(), ash, []string{walk.Question.Character})
	require.NoError(t, err)
	require.NotEqual(t, walk.Question.Character, skipped.Question.Character)
	for _, ask := range []func(tree string) error{
		func(tree string) error { _, err := b.Compare(t.Context(), tree, "", ""); return err },
		func(tree string) error { _, err := b.WhyNot(t.Context(), tree, "Acer rubrum"); return err },
		func(tree string) error { _, err := b.Walk(t.Context(), tree, nil); return err },
	} {
		require.ErrorIs(t, ask(ulid.Make().String()), book.ErrNoTree)
	}
}

func TestReportAndMap(t *testing.T) {
	t.Parallel()
	b := demotest.New(t)
	m, err := b.Map(t.Context())
	require.NoError(t, err)
	require.Equal(t, tract, m.Tracts[0].Tract)
	require.NotEmpty(t, m.Tracts[0].Terrain)
	require.InDelta(t, 132.4, m.Tracts[0].Hectares, 0.1)
	require.Len(t, m.Stands, 6)
	dots, err := b.Dots(t.Context(), book.Query{Stand: "North cove"})
	require.NoError(t, err)
	require.NotEmpty(t, dots)

	r, err := b.Report(t.Context(), tract, "North cove")
	require.NoError(t, err)
	require.Equal(t, "North cove", r.Stand)
	require.Len(t, r.Dots, len(dots))
	trees := 0
	for _, n := range r.Statuses {
		trees += n
	}
	require.Equal(t, r.Composition.Trees, trees)
	require.NotEmpty(t, r.Names)
	require.NotEmpty(t, r.Sources)
	whole, err := b.Report(t.Context(), tract, "")
	require.NoError(t, err)
	require.Greater(t, whole.Composition.Trees, r.Composition.Trees)
}

func TestListsOfOnesOwn(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	kept, err := b.PutList(
		t.Context(),
		book.NewList{Name: "Avenue", Region: home, Table: "taxon,abundance\nTilia cordata,common\nAcer platanoides,rare\n"},
		"",
	)
	require.NoError(t, err)
	require.Equal(t, map[string]string{"Tilia cordata": "common", "Acer platanoides": "rare"}, kept.Taxa)
	for _, format := range []string{"csv", "yaml"} {
		text, err := b.ListFile("Avenue", format)
		require.NoError(t, err)
		again, err := b.PutList(t.Context(), book.NewList{Name: "Avenue", Region: home, Table: text}, "")
		require.NoError(t, err, text)
		require.Equal(t, kept, again, "what was written is read back")
	}
	_, err = b.PutList(t.Context(), book.NewList{Name: "Avenue", Region: home, Table: "taxon,abundance\nTilia cordatta,common\n"}, "")
	require.ErrorContains(t, err, `did you mean "Tilia cordata"?`)
	_, err = b.ListFile("Another", "csv")
	require.ErrorIs(t, err, book.ErrNoList)
	require.ErrorIs(t, b.DropList(t.Context(), "Another", ""), book.ErrNoList)
	require.NoError(t, b.DropList(t.Context(), "Avenue", ""))
	lists, err := b.Lists(t.Context())
	require.NoError(t, err)
	require.Empty(t, lists)
}

func TestPhotographs(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree := started(t, b, "LC-1")
	l := look(t, b, tree, "tree")
	var file bytes.Buffer
	require.NoError(t, png.Encode(&file, image.NewGray(image.Rect(0, 0, 800, 600))))
	n := book.NewPhoto{ID: ulid.Make().String(), Tree: tree, Look: l, By: "Wren Halloran", Caption: "Bark"}
	for range 2 { // sent again after a lost answer, it is there once
		p, err := b.AddPhoto(t.Context(), n, bytes.NewReader(file.Bytes()))
		require.NoError(t, err)
		require.Equal(t, []any{800, 600, "image/png"}, []any{p.Width, p.Height, p.Kind})
	}
	photos, err := b.Photos(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, photos, 1)
	whole, kind, err := booktest.ReadPhoto(t, b, n.ID, false)
	require.NoError(t, err)
	require.Equal(t, file.Bytes(), whole)
	require.Equal(t, "image/png", kind)
	thumb, _, err := booktest.ReadPhoto(t, b, n.ID, true)
	require.NoError(t, err)
	require.Equal(t, "image/jpeg", http.DetectContentType(thumb))

	other := n
	other.Caption = "Another"
	_, err = b.AddPhoto(t.Context(), other, bytes.NewReader(file.Bytes()))
	require.ErrorIs(t, err, book.ErrIDTaken, "another of its id is not acknowledged and lost")
	for range 2 {
		require.NoError(t, b.MarkPhoto(t.Context(), n.ID, true, ""))
		photos, err = b.Photos(t.Context(), tree)
		require.NoError(t, err)
		require.Empty(t, photos)
	}
	_, _, err = booktest.ReadPhoto(t, b, n.ID, false)
	require.ErrorIs(t, err, book.ErrNoPhoto, "what was taken back is not served")
	require.NoError(t, b.MarkPhoto(t.Context(), n.ID, false, ""))
	photos, err = b.Photos(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, photos, 1, "put back")
	require.NoError(t, b.MarkPhoto(t.Context(), n.ID, true, ""))
	require.ErrorIs(t, b.MarkPhoto(t.Context(), ulid.Make().String(), true, ""), book.ErrNoPhoto)
	_, err = b.AddPhoto(t.Context(), book.NewPhoto{ID: ulid.Make().String(), Tree: tree, Look: ulid.Make().String()}, bytes.NewReader(file.Bytes()))
	require.ErrorContains(t, err, "look")
	_, err = b.AddPhoto(t.Context(), book.NewPhoto{ID: ulid.Make().String(), Tree: tree}, strings.NewReader("not a picture"))
	require.Error(t, err)
	photos, err = b.Photos(t.Context(), tree)
	require.NoError(t, err)
	require.Empty(t, photos, "what was refused left nothing")
}

func TestFormatsSayWhatTheyLose(t *testing.T) {
	t.Parallel()
	for _, f := range book.Formats() {
		require.NotEmpty(t, f.Lost, f.ID)
		require.NotEmpty(t, f.Type, f.ID)
	}
	for _, f := range book.FileFields() {
		require.NotContains(t, []string{"leader", "leader_posterior", "status"}, f.ID, "the book works that out")
	}
}

// TestTheNameWrittenDownIsSaid: the map gives a saved name its own chance, and a name that was seen in leaf
// leads whatever the winter's looks say.
func TestTheNameWrittenDownIsSaid(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree, _ := hackberry(t, b, "LC-1")
	at := book.Position{Lon: -90.63, Lat: 43.56}
	_, err := b.AddEntry(t.Context(), tree, &book.Entry{ID: ulid.Make().String(), Kind: "facts", Facts: &book.SetFacts{Position: &at}})
	require.NoError(t, err)
	words := func() (dot, line string) {
		dots, err := b.Dots(t.Context(), book.Query{})
		require.NoError(t, err)
		lines, err := b.Trees(t.Context(), book.Query{}, 1, 0)
		require.NoError(t, err)
		return dots[0].Words, lines.Trees[0].Words
	}
	named(t, b, tree, "genus", "Celtis")
	v, err := b.View(t.Context(), tree)
	require.NoError(t, err)
	var genus float64
	for _, r := range v.Result.Ranking {
		if strings.HasPrefix(r.Taxon, "Celtis ") {
			genus += r.Posterior
		}
	}
	dot, _ := words()
	require.Equal(t, "hackberry (Celtis), "+answer.Percent(genus), dot)
	require.NotEqual(t, answer.Percent(genus), answer.Percent(v.Result.Ranking[0].Posterior))

	_, err = b.AddEntry(t.Context(), tree, &book.Entry{ID: ulid.Make().String(), Kind: "name",
		Name: &book.Naming{Rank: "species", Name: "Acer saccharinum", Seen: "flower"}})
	require.NoError(t, err)
	dot, line := words()
	require.Equal(t, "silver maple, seen in flower", dot)
	require.Equal(t, "Silver maple, seen in flower", line)
}
