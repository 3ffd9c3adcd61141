// Package cruise plans a check cruise: which trees of a stand somebody else names again,
// so that what the crew's names are worth is known to a wanted precision.
package cruise

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
)

// z is the standard normal quantile of 0.975.
const z = 1.959963984540054

// Needed is how many of so many trees are to be named again for an agreement of about
// expected (0 to 1) to be known to within half a width of half (0 to 0.5) at 95 %: the normal
// approximation with finite population correction (Cochran 1977, Sampling Techniques, 3rd
// ed., eq. 4.1). Never more than there are, and at least one where there is any.
func Needed(trees int, expected, half float64) (int, error) {
	switch {
	case !(expected > 0 && expected < 1):
		return 0, fmt.Errorf("expect an agreement between 0 and 1, not %g", expected)
	case !(half > 0 && half <= 0.5):
		return 0, fmt.Errorf("want a half-width between 0 and 0.5, not %g", half)
	case trees <= 0:
		return 0, nil
	}
	n0 := z * z * expected * (1 - expected) / (half * half)
	n := n0 / (1 + (n0-1)/float64(trees))
	return max(1, min(trees, int(math.Ceil(n-1e-9)))), nil
}

// HalfWidth is what so many trees of a stand give, by the same formula.
func HalfWidth(trees, named int, expected float64) float64 {
	if named <= 0 || trees <= 1 {
		return math.NaN()
	}
	fpc := float64(trees-named) / float64(trees-1)
	return z * math.Sqrt(expected*(1-expected)/float64(named)*fpc)
}

// Tree is one that could be named again, and the stratum it is of.
type Tree struct {
	ID      string
	Stratum string
}

// Stratum is how many of the trees of a stratum were drawn.
type Stratum struct {
	Name  string
	Trees int
	Drawn int
}

// Draw picks n trees by a seed, so many of each stratum as there are of it, by largest
// remainders; each stratum gets one while there are enough. The same trees, n and seed give
// the same draw, whatever order the trees come in. A plan larger than what there is takes all.
func Draw(trees []Tree, n int, seed uint64) (drawn []Tree, strata []Stratum) {
	of := map[string][]Tree{}
	for _, t := range trees {
		of[t.Stratum] = append(of[t.Stratum], t)
	}
	for name, some := range of {
		strata = append(strata, Stratum{Name: name, Trees: len(some)})
	}
	slices.SortFunc(strata, func(a, b Stratum) int { return cmp.Compare(a.Name, b.Name) })
	allot(strata, min(n, len(trees)), len(trees))
	for i, s := range strata {
		some := of[s.Name]
		slices.SortFunc(some, func(a, b Tree) int { return cmp.Compare(a.ID, b.ID) })
		r := rand.New(rand.NewPCG(seed, uint64(i)))
		r.Shuffle(len(some), func(a, b int) { some[a], some[b] = some[b], some[a] })
		drawn = append(drawn, some[:s.Drawn]...)
	}
	return drawn, strata
}

// allot gives each stratum its part of n.
func allot(strata []Stratum, n, trees int) {
	if trees == 0 {
		return
	}
	order := make([]int, len(strata))
	left := n
	quota := make([]float64, len(strata))
	for i := range strata {
		quota[i] = float64(n) * float64(strata[i].Trees) / float64(trees)
		strata[i].Drawn = int(quota[i])
		left -= strata[i].Drawn
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		empty := func(i int) int { return min(strata[i].Drawn, 1) } // those with none come first
		return cmp.Or(cmp.Compare(empty(a), empty(b)), cmp.Compare(quota[b]-float64(strata[b].Drawn), quota[a]-float64(strata[a].Drawn)))
	})
	for k := 0; left > 0; k++ {
		if s := &strata[order[k%len(order)]]; s.Drawn < s.Trees {
			s.Drawn++
			left--
		}
	}
}
