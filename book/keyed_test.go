package book_test

import (
	"testing"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
)

// keyedSheet is a tree of a sheet of the home region, with what stands in some rows.
func keyedSheet(t *testing.T, b *book.Book, tag string, written map[string]string) *book.KeyedSheet {
	t.Helper()
	s, err := b.TallySheet(book.Among{}, "twig-in-hand", 4)
	require.NoError(t, err)
	k := &book.KeyedSheet{Route: "twig-in-hand", Room: 4, Code: s.Code, Note: "from paper"}
	k.NewTree = book.NewTree{ID: ulid.Make().String(), Tag: tag, Tract: "Lantern Creek", Stand: "North cove", By: "Ada"}
	for _, r := range s.Rows {
		if w := written[r.Character]; w != "" {
			k.Answers = append(k.Answers, book.KeyedAnswers{Character: r.Character, Written: w})
		}
	}
	return k
}

// TestKeyIn keys a sheet in: once, twice (a lost answer), and onto a tree that is there already.
func TestKeyIn(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	k := keyedSheet(t, b, "LC-001", map[string]string{"twig.arrangement": "c", "bud.length": "5", "ground.leaf": "?", "bud.tip": "a"})
	v, err := b.KeyIn(t.Context(), k)
	require.NoError(t, err)
	require.Equal(t, "LC-001", v.Tree.Tag)
	require.Len(t, v.Looks, 2, "the twig's and, seen in the crown, how its leaves stood")
	require.Len(t, v.Looks[0].Scores, 2)
	require.NotEmpty(t, v.Result.Ranking)

	again, err := b.KeyIn(t.Context(), k)
	require.NoError(t, err)
	require.Equal(t, v.Looks, again.Looks)
	list, err := b.Trees(t.Context(), book.Query{}, 10, 0)
	require.NoError(t, err)
	require.Equal(t, 1, list.Total)

	more := keyedSheet(t, b, "LC-001", map[string]string{"twig.pith": "a", "fruit.kind": "aa"})
	v, err = b.KeyIn(t.Context(), more)
	require.NoError(t, err)
	require.Len(t, v.Looks, 4)

	aside := true
	_, err = b.AddEntry(t.Context(), v.Tree.ID, &book.Entry{ID: ulid.Make().String(), Kind: "facts", Facts: &book.SetFacts{Aside: &aside}})
	require.NoError(t, err)
	fresh, err := b.KeyIn(t.Context(), keyedSheet(t, b, "LC-001", map[string]string{"twig.pith": "a"}))
	require.NoError(t, err)
	require.NotEqual(t, v.Tree.ID, fresh.Tree.ID, "nothing goes to a tree that was set aside")
	require.Len(t, fresh.Looks, 1)
}

// TestKeyInRefused: what cannot be read leaves nothing behind, and says where it stands.
// TestKeyedTwice: a sheet that was keyed in before, under another id, is asked about; sent again it is the same.
func TestKeyedTwice(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	answers := map[string]string{"twig.arrangement": "c", "bud.tip": "a"}
	first := keyedSheet(t, b, "LC-001", answers)
	for range 2 {
		_, err := b.KeyIn(t.Context(), first)
		require.NoError(t, err)
	}
	twice := keyedSheet(t, b, "lc-001", answers)
	_, err := b.KeyIn(t.Context(), twice)
	require.ErrorContains(t, err, "keyed in before")
	require.Equal(t, "again", book.FieldsOf(err)[0].Field)
	twice.Again = true
	v, err := b.KeyIn(t.Context(), twice)
	require.NoError(t, err)
	require.Equal(t, "LC-001", v.Tree.Tag, "the same tree, however its tag is written")
	more := keyedSheet(t, b, "LC-001", map[string]string{"twig.arrangement": "c", "bud.shape": "a"})
	_, err = b.KeyIn(t.Context(), more)
	require.NoError(t, err, "a sheet that says more is another one")
}

func TestKeyInRefused(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	good := map[string]string{"twig.arrangement": "c"}
	for want, k := range map[string]*book.KeyedSheet{
		"its letters are":             keyedSheet(t, b, "LC-001", map[string]string{"twig.arrangement": "c", "bud.tip": "z"}),
		"nothing was keyed":           keyedSheet(t, b, "LC-001", map[string]string{"bud.tip": "?"}),
		"its letters differ":          func() *book.KeyedSheet { k := keyedSheet(t, b, "LC-001", good); k.Code = "OLD1"; return k }(),
		"tag":                         keyedSheet(t, b, " ", good),
		"no such route":               func() *book.KeyedSheet { k := keyedSheet(t, b, "LC-001", good); k.Route = "x"; return k }(),
		"still to come":               func() *book.KeyedSheet { k := keyedSheet(t, b, "LC-001", good); k.Day = "2199-01-02"; return k }(),
		"bud length: \"long\" is not": keyedSheet(t, b, "LC-001", map[string]string{"twig.arrangement": "c", "bud.length": "long"}),
	} {
		_, err := b.KeyIn(t.Context(), k)
		require.Error(t, err, want)
		says := ""
		for _, f := range book.FieldsOf(err) {
			says += f.Field + " " + f.Message
		}
		require.Contains(t, says, want)
	}
	list, err := b.Trees(t.Context(), book.Query{}, 10, 0)
	require.NoError(t, err)
	require.Zero(t, list.Total)
}

// TestFind follows codes: of a tree, of a tag that two tracts have, of one that nobody has.
func TestFind(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	ids := map[string]string{}
	for _, tract := range []string{"Lantern Creek", "Pump house"} {
		id := ulid.Make().String()
		ids[tract] = id
		_, err := b.AddTree(t.Context(), book.NewTree{ID: id, Tag: "LC-7", Tract: tract, Stand: "Cove", New: true})
		require.NoError(t, err)
	}
	id := ids["Lantern Creek"]
	for code, want := range map[string][]string{
		"https://book.example/t/" + id: {id}, "/t/" + id: {id}, id: {id},
		"https://book.example/t/?tag=LC-7&tract=Pump+house": {ids["Pump house"]},
		"lc-7": {ids["Lantern Creek"], ids["Pump house"]}, "LC-70": nil, "/t/" + ulid.Make().String(): nil,
	} {
		got, err := b.Find(t.Context(), code)
		require.NoError(t, err, code)
		var found []string
		for _, l := range got.Trees {
			found = append(found, l.ID)
		}
		require.ElementsMatch(t, want, found, code)
	}
	_, err := b.Find(t.Context(), "   ")
	require.Error(t, err)

	labels, err := b.Labels(t.Context(), book.Query{Tract: "Pump house"}, nil)
	require.NoError(t, err)
	require.Equal(t, []book.Labelled{{Tag: "LC-7", Tract: "Pump house", Stand: "Cove", Path: "/t/" + ids["Pump house"]}}, labels)
	fresh, err := b.Labels(t.Context(), book.Query{Tract: "Pump house"}, []string{"A & B"})
	require.NoError(t, err)
	found, err := b.Find(t.Context(), "https://book.example"+fresh[0].Path)
	require.NoError(t, err)
	require.Equal(t, "A & B", found.Tag)
	require.Empty(t, found.Trees)
	_, err = b.Labels(t.Context(), book.Query{}, []string{string(make([]byte, 50))})
	require.Error(t, err)
}

// TestKeyInAll keys in everything that a sheet has room for, and undoes all of it at once.
func TestKeyInAll(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	pairs, singles := 1, 7
	k := keyedSheet(t, b, "LC-002", map[string]string{"twig.arrangement": "c", "bud.tip": "a"})
	k.Writer, k.Age, k.Pairs, k.Singles = "Tobias Okafor", "mature", &pairs, &singles
	v, err := b.KeyIn(t.Context(), k)
	require.NoError(t, err)
	require.Equal(t, "mature", v.Facts.Age)
	require.Contains(t, v.Looks[0].Note, "Written by Tobias Okafor. from paper")
	var counted *book.Score
	for _, l := range v.Looks {
		for i := range l.Scores {
			if l.Scores[i].Character == "twig.arrangement" {
				require.Nil(t, counted, "a count stands in place of a letter")
				counted = &l.Scores[i].Score
			}
		}
	}
	require.Equal(t, 1, *counted.Pairs)
	require.Equal(t, 8, *counted.Nodes)

	_, err = b.UndoKeyed(t.Context(), k.ID, v.Tree.ID, "Wren Halloran")
	require.ErrorContains(t, err, "Ada", "nobody undoes what another did")
	v, err = b.UndoKeyed(t.Context(), k.ID, v.Tree.ID, "Ada")
	require.NoError(t, err)
	require.Empty(t, v.Looks)
	require.Empty(t, v.Facts.Age)
	require.True(t, v.Facts.Aside, "the sheet started it, and nobody looked at it since")
	_, err = b.UndoKeyed(t.Context(), k.ID, v.Tree.ID, "Ada")
	require.ErrorContains(t, err, "undone already", "a second press is refused, not passed over")

	first := keyedSheet(t, b, "LC-003", map[string]string{"bud.tip": "a"})
	v, err = b.KeyIn(t.Context(), first)
	require.NoError(t, err)
	second := keyedSheet(t, b, "LC-003", map[string]string{"twig.pith": "a"})
	_, err = b.KeyIn(t.Context(), second)
	require.NoError(t, err)
	v, err = b.UndoKeyed(t.Context(), second.ID, v.Tree.ID, "Ada")
	require.NoError(t, err)
	require.Len(t, v.Looks, 1, "what another sheet said stays")
	require.False(t, v.Facts.Aside)
}

// TestUndoneSheetLeavesANamedTree: a tree that was named since it was keyed in is not set aside with the sheet.
func TestUndoneSheetLeavesANamedTree(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	k := keyedSheet(t, b, "LC-004", map[string]string{"bud.tip": "a"})
	v, err := b.KeyIn(t.Context(), k)
	require.NoError(t, err)
	_, err = b.AddEntry(t.Context(), v.Tree.ID, &book.Entry{ID: ulid.Make().String(), Kind: "name", By: "Wren Halloran",
		Name: &book.Naming{Rank: "species", Name: "Acer rubrum", Why: "seen in leaf"}})
	require.NoError(t, err)
	v, err = b.UndoKeyed(t.Context(), k.ID, v.Tree.ID, "Ada")
	require.NoError(t, err)
	require.Empty(t, v.Looks)
	require.False(t, v.Facts.Aside)
}
