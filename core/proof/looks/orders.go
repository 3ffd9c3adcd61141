package looks

import (
	"cmp"
	"slices"

	"palethicket/core/flora"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
)

// order is one way of going through the looks.
type order struct {
	name  string
	asks  int // how many next looks it wants to be told
	begin func(t *tree) (next func() *flora.Character)
}

// all asks for every look that promises anything.
const all = 1000

// orders are the program's own, that by bits alone, every route's, and a random one.
func orders(f *flora.Flora) []order {
	out := []order{
		{"the program's next look", all, func(t *tree) func() *flora.Character { return t.told(f, foremost) }},
		{"the look of most bits", all, func(t *tree) func() *flora.Character { return t.told(f, most) }},
	}
	for _, r := range record.Routes {
		chars := routed(f, r)
		out = append(out, order{"route: " + r.Words, 0, func(*tree) func() *flora.Character { return through(chars) }})
	}
	return append(out, order{"at random", 0, func(t *tree) func() *flora.Character {
		chars := lookedAt(f)
		t.rng.Shuffle(len(chars), func(i, j int) { chars[i], chars[j] = chars[j], chars[i] })
		return through(chars)
	}})
}

// told takes one of the looks that the program names; one that could not be answered is not
// taken again.
func (t *tree) told(f *flora.Flora, which func([]answer.Next) answer.Next) func() *flora.Character {
	return func() *flora.Character {
		left := slices.DeleteFunc(slices.Clone(t.answers), func(n answer.Next) bool { return t.looked[n.Character] })
		if len(left) == 0 {
			return nil
		}
		return f.Character(which(left).Character)
	}
}

// foremost is the look that the program puts first.
func foremost(left []answer.Next) answer.Next { return left[0] }

// most is that which tells most, however long it takes.
func most(left []answer.Next) answer.Next {
	return slices.MaxFunc(left, func(a, b answer.Next) int { return cmp.Compare(a.Bits, b.Bits) })
}

// lookedAt are the characters that can be looked at, in the flora's order.
func lookedAt(f *flora.Flora) []*flora.Character {
	var out []*flora.Character
	for i := range f.Characters {
		if f.Characters[i].ID != foliage {
			out = append(out, &f.Characters[i])
		}
	}
	return out
}

// routed are they in the order of a route: by kind of look, then by part.
func routed(f *flora.Flora, r record.Route) []*flora.Character {
	all := lookedAt(f)
	at := func(c *flora.Character) int {
		return slices.Index(r.From, answer.From(c))*len(r.Sections) + slices.Index(r.Sections, c.Section)
	}
	slices.SortStableFunc(all, func(a, b *flora.Character) int { return at(a) - at(b) })
	return all
}

// through goes through characters one by one.
func through(all []*flora.Character) func() *flora.Character {
	i := -1
	return func() *flora.Character {
		if i++; i < len(all) {
			return all[i]
		}
		return nil
	}
}
