package lookalike

import (
	"cmp"
	"slices"

	"palethicket/core/flora"
)

// mostTogether is how many taxa are looked at side by side.
const mostTogether = 4

// Groups gives the taxa of a pool that are taken for one another, two to four together, so that each pair that the
// flora has a line on is in some group: the closest first, and the likest joined to them.
func Groups(p *flora.Pool, f *flora.Flora) (out [][]string) {
	type pair struct {
		a, b int
		bits float64
	}
	table := NewTable(p)
	var pairs []pair
	line := map[[2]int]bool{}
	for i := range f.Alike {
		a, inA := p.Find(f.Alike[i].Pair[0])
		b, inB := p.Find(f.Alike[i].Pair[1])
		if inA && inB {
			a, b = min(a, b), max(a, b)
			line[[2]int{a, b}] = true
			pairs = append(pairs, pair{a, b, table.sums(a, b).Both})
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
			for _, t := range []int{more.a, more.b} {
				fits := len(group) < mostTogether && !slices.Contains(group, t)
				for _, g := range group {
					fits = fits && lined(g, t) && !covered[[2]int{min(g, t), max(g, t)}]
				}
				if fits {
					group = append(group, t)
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
