package cruise

import (
	"cmp"
	"errors"
	"math"
	"slices"

	"palethicket/core/stand/agreement"
)

// Named is a name that somebody gave a tree.
type Named struct {
	By   string  `json:"by"`
	Rank string  `json:"rank"`
	Name string  `json:"name"`
	P    float64 `json:"p,omitempty"` // what the evidence gave it then
}

// Pair is a tree that two people named, neither knowing of the other.
type Pair struct {
	Tree   string  `json:"tree"`
	Tag    string  `json:"tag"`
	Tract  string  `json:"tract"`
	Stand  string  `json:"stand"`
	First  Named   `json:"first"`  // last given by another before
	Others []Named `json:"others"` // the last of each other person, the first's among them
	Second Named   `json:"second"` // the checker's; without a name: not named
}

// Scored is how often two people scored a character of the same trees, and the same.
type Scored struct {
	Character string `json:"character"`
	Same      int    `json:"same"`
	Of        int    `json:"of"`
}

// Ranks are those that names are compared at, the finest first.
var Ranks = []string{"species", "genus", "family"}

// Labels gives what a name is called at a rank; "" where it does not reach so far.
type Labels func(n Named, rank string) string

// AtRank is the agreement at one rank, of the trees that both named so far.
type AtRank struct {
	Rank  string
	Share agreement.Share
	Kappa agreement.Kappa
	Why   error // why there is no kappa
}

// Cell is how often the first called i what the checker called j.
type Cell struct {
	First, Second string
	N             int
}

// Observer is what one person's names are worth, by what all call the same trees.
type Observer struct {
	Name  string
	Trees int
	Wrong float64
}

// Results are what a check says.
type Results struct {
	Planned, Named int
	ByRank         []AtRank
	Cells          []Cell // as far as each name goes, the most often first
	Observers      []Observer
	Several        *Several // where some trees were named by three or more
}

// Several is the agreement of more than two, at the rank of the genus.
type Several struct {
	People, Trees int
	Kappa         agreement.Kappa
	Why           error // why there is none
}

// ResultsOf works out what a check says. A tree that the checker left without a name counts
// as planned, and in nothing else.
func ResultsOf(pairs []Pair, labels Labels) *Results {
	out := &Results{Planned: len(pairs)}
	var named []Pair
	for _, p := range pairs {
		if p.Second.Name != "" {
			named = append(named, p)
		}
	}
	out.Named = len(named)
	for _, rank := range Ranks {
		out.ByRank = append(out.ByRank, atRank(named, rank, labels))
	}
	out.Cells = cells(named, labels)
	out.Observers = observers(named, labels)
	out.Several = several(named, labels)
	return out
}

func atRank(named []Pair, rank string, labels Labels) AtRank {
	at := map[string]int{}
	index := func(label string) int {
		if _, ok := at[label]; !ok {
			at[label] = len(at)
		}
		return at[label]
	}
	var both [][2]int
	agreed := 0
	for _, p := range named {
		a, b := labels(p.First, rank), labels(p.Second, rank)
		if a == "" || b == "" {
			continue
		}
		both = append(both, [2]int{index(a), index(b)})
		if a == b {
			agreed++
		}
	}
	table := make([][]int, len(at))
	for i := range table {
		table[i] = make([]int, len(at))
	}
	for _, b := range both {
		table[b[0]][b[1]]++
	}
	out := AtRank{Rank: rank, Share: agreement.ShareOf(agreed, len(both))}
	out.Kappa, out.Why = agreement.Cohen(table)
	if out.Why != nil && !errors.Is(out.Why, agreement.ErrOneCategory) {
		out.Kappa.Kappa, out.Kappa.SE = math.NaN(), math.NaN()
	}
	return out
}

// several takes the trees that the same number of people named, three or more: of such numbers the one
// of most trees.
func several(named []Pair, labels Labels) *Several {
	by := map[int][][]string{} // genera, by how many people
	for _, p := range named {
		var genera []string
		for _, n := range append(slices.Clone(p.Others), p.Second) {
			if l := labels(n, "genus"); l != "" {
				genera = append(genera, l)
			}
		}
		if len(genera) > 2 {
			by[len(genera)] = append(by[len(genera)], genera)
		}
	}
	out := &Several{}
	for people, trees := range by {
		if len(trees) > out.Trees || len(trees) == out.Trees && people > out.People {
			out.People, out.Trees = people, len(trees)
		}
	}
	if out.Trees == 0 {
		return nil
	}
	at := map[string]int{}
	for _, genera := range by[out.People] {
		for _, g := range genera {
			if _, ok := at[g]; !ok {
				at[g] = len(at)
			}
		}
	}
	counts := make([][]int, out.Trees)
	for i, genera := range by[out.People] {
		counts[i] = make([]int, len(at))
		for _, g := range genera {
			counts[i][at[g]]++
		}
	}
	out.Kappa, out.Why = agreement.Fleiss(counts)
	return out
}

// finest is what a name is called as far as it goes.
func finest(n Named, labels Labels) string {
	for _, rank := range Ranks {
		if l := labels(n, rank); l != "" {
			return l
		}
	}
	return n.Name
}

func cells(named []Pair, labels Labels) []Cell {
	count := map[[2]string]int{}
	for _, p := range named {
		count[[2]string{finest(p.First, labels), finest(p.Second, labels)}]++
	}
	out := []Cell{}
	for k, n := range count {
		out = append(out, Cell{k[0], k[1], n})
	}
	slices.SortFunc(out, func(a, b Cell) int {
		return cmp.Or(cmp.Compare(b.N, a.N), cmp.Compare(a.First, b.First), cmp.Compare(a.Second, b.Second))
	})
	return out
}

// observers finds what each errs at the rank of the genus, which nearly all names reach.
func observers(named []Pair, labels Labels) []Observer {
	var calls []agreement.Call
	people, kinds := map[string]int{}, map[string]int{}
	number := func(of map[string]int, key string) int {
		if _, ok := of[key]; !ok {
			of[key] = len(of)
		}
		return of[key]
	}
	for i, p := range named {
		for _, n := range append(slices.Clone(p.Others), p.Second) {
			if l := labels(n, "genus"); l != "" && n.By != "" {
				calls = append(calls, agreement.Call{Case: i, Observer: number(people, n.By), Category: number(kinds, l)})
			}
		}
	}
	crew := agreement.Observers(calls, len(named), len(people), len(kinds))
	out := make([]Observer, len(people))
	for name, o := range people {
		out[o] = Observer{Name: name, Wrong: crew.Wrong[o]}
	}
	for _, c := range calls {
		out[c.Observer].Trees++
	}
	slices.SortFunc(out, func(a, b Observer) int { return cmp.Compare(a.Name, b.Name) })
	return out
}
