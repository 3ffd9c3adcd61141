// Package spring says how often winter's names were right, by the trees that were seen in leaf,
// flower or fruit afterwards.
package spring

import (
	"cmp"
	"slices"

	"palethicket/core/stand/agreement"
)

// Name is a winter's name of a tree, and whether it was seen to be so.
type Name struct {
	Taxon string  // what the tree was seen to be
	By    string  // who named it
	Rank  string  // that the name was of
	P     float64 // what the evidence gave the name then; 0: not known
	Right bool
}

// Bin is how often names given at about one chance were right.
type Bin struct {
	From, To float64
	Mean     float64 // of the chances said
	Right    agreement.Share
}

// Group is how often the names of one person, rank or species were right.
type Group struct {
	Name  string
	Right agreement.Share
}

// Accuracy is what spring says of winter.
type Accuracy struct {
	All        agreement.Share
	Bins       []Bin // of names whose chance is known; those of nothing are left out
	Brier      float64
	Expected   float64 // how many of those with a chance should be right, by the chances
	Told       int     // how many those are
	ByRank     []Group
	ByObserver []Group
	ByTaxon    []Group // the worst first
}

// edges are those of the bins.
var edges = []float64{0, 0.5, 0.7, 0.8, 0.9, 0.95, 0.99, 1}

// Of adds names up. They are those that stood last before each tree was confirmed.
func Of(names []Name) *Accuracy {
	out := &Accuracy{}
	right := 0
	ranks, people, taxa := map[string][2]int{}, map[string][2]int{}, map[string][2]int{}
	n, hits, sums := make([]int, len(edges)), make([]int, len(edges)), make([]float64, len(edges))
	for _, name := range names {
		hit := 0
		if name.Right {
			hit = 1
		}
		right += hit
		for of, key := range map[*map[string][2]int]string{&ranks: name.Rank, &people: name.By, &taxa: name.Taxon} {
			was := (*of)[key]
			(*of)[key] = [2]int{was[0] + hit, was[1] + 1}
		}
		if name.P <= 0 {
			continue
		}
		out.Told++
		out.Expected += name.P
		out.Brier += (name.P - float64(hit)) * (name.P - float64(hit))
		bin := 0
		for bin < len(edges)-2 && name.P >= edges[bin+1] {
			bin++
		}
		n[bin]++
		hits[bin] += hit
		sums[bin] += name.P
	}
	out.All = agreement.ShareOf(right, len(names))
	if out.Told > 0 {
		out.Brier /= float64(out.Told)
	}
	for i := range len(edges) - 1 {
		if n[i] > 0 {
			out.Bins = append(out.Bins, Bin{edges[i], edges[i+1], sums[i] / float64(n[i]), agreement.ShareOf(hits[i], n[i])})
		}
	}
	out.ByRank, out.ByObserver, out.ByTaxon = groups(ranks), groups(people), groups(taxa)
	slices.SortStableFunc(out.ByTaxon, func(a, b Group) int {
		return cmp.Or(cmp.Compare(a.Right.P, b.Right.P), cmp.Compare(b.Right.Of, a.Right.Of))
	})
	return out
}

func groups(of map[string][2]int) []Group {
	out := []Group{}
	for name, n := range of {
		out = append(out, Group{name, agreement.ShareOf(n[0], n[1])})
	}
	slices.SortFunc(out, func(a, b Group) int { return cmp.Compare(a.Name, b.Name) })
	return out
}
