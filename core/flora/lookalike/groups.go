package lookalike

import (
	"cmp"
	"slices"

	"palethicket/core/flora"
)

// mostTogether is how many taxa are looked at side by side.
const mostTogether = 4

// Groups gives the taxa of the pool that are taken for one another, two to four together, so that each pair that the
// flora has a line on is in some group: the closest first, and the likest joined to them.
func (t *Table) Groups(f *flora.Flora) (out [][]string) {
	type pair struct {
		a, b int
		bits float64
	}
	p := t.pool
	var pairs []pair
	line := map[[2]int]bool{}
	for i := range f.Alike {
		a, inA := p.Find(f.Alike[i].Pair[0])
		b, inB := p.Find(f.Alike[i].Pair[1])
		if inA && inB {
			a, b = min(a, b), max(a, b)
			line[[2]int{a, b}] = true
			pairs = append(pairs, pair{a, b, t.sums(a, b).Both})
		}
	}
	slices.SortStableFunc(pairs, func(x, y pair) int { return cmp.Compare(x.bits, y.bits) })
	lined := func(a, b int) bool { return line[[2]int{min(a, b), max(a, b)}] }
	covered := map[[2]int]bool{}
	for _, first := range pairs {
		if covered[[2]int{first.a, first.b}] {
			continue
		}
		group := []int{first.a, first.b}
		for _, more := range pairs { // whoever has a line with all that are in it
			for _, c := range []int{more.a, more.b} {
				fits := len(group) < mostTogether && !slices.Contains(group, c)
				for _, g := range group {
					fits = fits && lined(g, c) && !covered[[2]int{min(g, c), max(g, c)}]
				}
				if fits {
					group = append(group, c)
				}
			}
		}
		var names []string
		for i, a := range group {
			names = append(names, p.Taxa[a].Name)
			for _, b := range group[:i] {
				covered[[2]int{min(a, b), max(a, b)}] = true
			}
		}
		out = append(out, names)
	}
	return out
}
