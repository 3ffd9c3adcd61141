package tallysheet_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/tallysheet"
	"palethicket/core/tree/record"
)

func laid(t *testing.T, route string, trees int) (*flora.Flora, *tallysheet.Sheet) {
	t.Helper()
	f := floratest.Shipped(t)
	s, err := tallysheet.New(f, flora.Among{Region: f.HomeRegion()}, route, trees)
	require.NoError(t, err)
	return f, s
}

// TestOrder holds a sheet to its route's order and its room, and every answer to a letter of its own.
func TestOrder(t *testing.T) {
	t.Parallel()
	codes := map[string]bool{}
	for _, route := range record.Routes {
		for trees, most := range tallysheet.Rooms {
			_, s := laid(t, route.ID, trees)
			codes[s.Code] = true
			require.LessOrEqual(t, len(s.Rows), most)
			at := 0
			for _, r := range s.Rows {
				section := slices.Index(route.Sections, r.Section)
				require.GreaterOrEqual(t, section, at, "%s before its turn", r.Character)
				at = section
				seen := map[string]bool{}
				for _, b := range r.Boxes {
					require.Len(t, b.Letter, len(r.Boxes[0].Letter), "letters of a row are as long as each other")
					require.False(t, seen[b.Letter])
					seen[b.Letter] = true
				}
				require.Equal(t, r.Kind == "numeric", len(r.Boxes) == 0)
			}
		}
	}
	require.Len(t, codes, 12, "each layout has a code of its own")
	_, twice := laid(t, "bark-first", 4)
	_, again := laid(t, "bark-first", 4)
	require.Equal(t, twice, again)
}

// TestTellsMost holds what is left out where room is short to telling less than what is kept.
func TestTellsMost(t *testing.T) {
	t.Parallel()
	_, all := laid(t, "twig-in-hand", 1)
	_, some := laid(t, "twig-in-hand", 10)
	least := some.Rows[0].Bits
	for _, r := range some.Rows {
		least = min(least, r.Bits)
	}
	for _, r := range all.Rows {
		if some.Row(r.Character) == nil {
			require.LessOrEqual(t, r.Bits, least, r.Character)
		}
	}
	require.Greater(t, some.Row("twig.arrangement").Bits, 0.5)
}

func TestRead(t *testing.T) {
	t.Parallel()
	_, s := laid(t, "twig-in-hand", 1)
	yes, no := true, false
	pith, sign := s.Row("twig.pith"), s.Row("bud.keeled")
	letter := func(r *tallysheet.Row, state string) string {
		for _, b := range r.Boxes {
			if b.State == state {
				return b.Letter
			}
		}
		t.Fatalf("%s has no %s", r.Character, state)
		return ""
	}
	solid, hollow := letter(pith, "solid"), letter(pith, "hollow")
	for _, c := range []struct {
		row     *tallysheet.Row
		written string
		want    record.Score
		wrong   string
	}{
		{pith, solid, record.Score{Character: "twig.pith", States: []string{"solid"}}, ""},
		{pith, " " + solid + ", " + hollow, record.Score{Character: "twig.pith", States: []string{"solid", "hollow"}}, ""},
		{pith, "z", record.Score{}, "pith has no \"z\"; its letters are"},
		{sign, "Y", record.Score{Character: "bud.keeled", Seen: &yes}, ""},
		{sign, "n", record.Score{Character: "bud.keeled", Seen: &no}, ""},
		{sign, "yn", record.Score{}, "was seen or was not"},
		{s.Row("bud.length"), "1/4 in", record.Score{Character: "bud.length", Typed: "1/4 in"}, ""},
	} {
		got, err := c.row.Read(c.written)
		if c.wrong != "" {
			require.ErrorContains(t, err, c.wrong)
			continue
		}
		require.NoError(t, err)
		require.Equal(t, c.want, *got)
	}
	for _, blank := range []string{"", " ", "?", "-"} {
		require.True(t, tallysheet.Blank(blank), blank)
	}
	require.False(t, tallysheet.Blank("a"))
}

func TestOdd(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	home := flora.Among{Region: f.HomeRegion()}
	_, err := tallysheet.New(f, home, "bark-first", 3)
	require.ErrorIs(t, err, tallysheet.ErrRoom)
	_, err = tallysheet.New(f, home, "backwards", 4)
	require.ErrorIs(t, err, tallysheet.ErrRoute)
	_, err = tallysheet.New(f, flora.Among{Region: "the moon"}, "bark-first", 4)
	require.Error(t, err)
}

// TestLettersForGrownTrees: what only grown trees show has its letter.
func TestLettersForGrownTrees(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	s, err := tallysheet.New(f, flora.Among{Region: f.HomeRegion()}, "bark-first", 1)
	require.NoError(t, err)
	row := s.Row("bark.texture")
	require.NotNil(t, row)
	require.True(t, slices.ContainsFunc(row.Boxes, func(b tallysheet.Box) bool { return b.State == "long-loose-plates" }))
}

// TestEveryKindOfFruitHasLetters: a row of more answers than there are letters has two for each.
func TestEveryKindOfFruitHasLetters(t *testing.T) {
	t.Parallel()
	f, s := laid(t, "twig-in-hand", 1)
	fruit := s.Row("fruit.kind")
	p, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: f.HomeRegion()}, Age: flora.At(flora.AnyAge)})
	require.NoError(t, err)
	kinds := map[string]bool{}
	char, _ := p.Index("fruit.kind", flora.Breast)
	for t := range p.Taxa {
		for i, x := range p.Model.Taxa()[t].Values[char].Dist {
			if x > 0.01 {
				kinds[f.Character("fruit.kind").States[i].ID] = true
			}
		}
	}
	require.Greater(t, len(kinds), 26)
	for kind := range kinds {
		at := slices.IndexFunc(fruit.Boxes, func(b tallysheet.Box) bool { return b.State == kind })
		require.GreaterOrEqual(t, at, 0, kind)
		read, err := fruit.Read(fruit.Boxes[at].Letter)
		require.NoError(t, err)
		require.Equal(t, []string{kind}, read.States)
	}
	both, err := fruit.Read(fruit.Boxes[0].Letter + "+" + fruit.Boxes[27].Letter)
	require.NoError(t, err)
	require.Len(t, both.States, 2)
	_, err = fruit.Read("a")
	require.ErrorContains(t, err, `has no "a"`)
}
