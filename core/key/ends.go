package key

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/weigh/evidence"
)

// What confirms a name: most of its trees show it, and few of its look-alikes.
const (
	confirms    = 0.7
	lacks       = 0.35
	confirmMost = 3
	takenMost   = 2
	likeMost    = 8 // look-alikes that it is held against
)

// ranks from the finest that two trees can share.
var ranks = []string{"group", "genus", "family"}

// shared is the finest name that all of some taxa have, and its rank; Several where they share none.
func (g *grower) shared(taxa []int) (rank, name string) {
	if len(taxa) == 1 {
		return "species", g.pool.Taxa[taxa[0]].Name
	}
	for _, rank := range ranks {
		name := g.pool.Taxa[taxa[0]].NameAt(rank)
		if name != "" && !slices.ContainsFunc(taxa, func(t int) bool { return g.pool.Taxa[t].NameAt(rank) != name }) {
			return rank, name
		}
	}
	return Several, ""
}

// shareName says whether taxa may end a key together: names that share nothing never do.
func (g *grower) shareName(taxa []int) bool {
	rank, _ := g.shared(taxa)
	return rank == "group" || rank == "genus"
}

// end is where the key comes out at a node.
func (g *grower) end(n *node) *End {
	order := make([]int, len(n.taxa))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(n.weight[b], n.weight[a]) })
	e := &End{Confirm: []string{}, Taken: []Taken{}}
	var called []string
	for _, i := range order {
		e.Taxa = append(e.Taxa, g.pool.Taxa[n.taxa[i]].Name)
		called = append(called, g.pool.Called(n.taxa[i]))
	}
	e.Rank, e.Name = g.shared(n.taxa)
	e.Words = flora.UpperFirst(orList(called))
	if len(n.taxa) > 1 {
		e.Why = g.apart(e.Taxa)
	}
	return e
}

// apart is what would tell trees apart that end a key together: the flora's lines on them, or that it takes another season.
func (g *grower) apart(taxa []string) string {
	var lines []string
	for i, a := range taxa {
		for _, b := range taxa[i+1:] {
			if alike := g.flora.Apart(a, b); alike != nil && len(lines) < takenMost {
				lines = append(lines, alike.Line)
			}
		}
	}
	return cmp.Or(strings.Join(lines, " "), "Winter marks hardly tell them apart. Leaves or flowers do.")
}

// confirm says of each end what confirms it, held against those that it is taken for and those it was parted from last.
func (g *grower) confirm(b *branch, way []*branch) {
	if b.end == nil {
		for _, s := range b.leads {
			g.confirm(s, append(slices.Clone(way), b))
		}
		return
	}
	if len(b.node.taxa) != 1 {
		return
	}
	mine := b.node.taxa[0]
	like := g.lookAlikes(mine, way)
	for _, t := range like {
		if alike := g.flora.Apart(g.pool.Taxa[mine].Name, g.pool.Taxa[t].Name); alike != nil && len(b.end.Taken) < takenMost {
			b.end.Taken = append(b.end.Taken, Taken{g.pool.Taxa[t].Name, g.pool.Called(t), alike.Line})
		}
	}
	b.end.Confirm = g.marksOf(mine, like, way)
}

// lookAlikes are those that a taxon is taken for, as the flora has it, and those that it was parted from last.
func (g *grower) lookAlikes(mine int, way []*branch) (out []int) {
	add := func(t int) {
		if t != mine && g.places[t] > 0 && !slices.Contains(out, t) && len(out) < likeMost {
			out = append(out, t)
		}
	}
	for t := range g.pool.Taxa {
		if g.flora.Apart(g.pool.Taxa[mine].Name, g.pool.Taxa[t].Name) != nil {
			add(t)
		}
	}
	for i := len(way) - 1; i >= 0 && len(out) < 3; i-- {
		for _, t := range way[i].node.taxa {
			add(t)
		}
	}
	return out
}

// marksOf are what most trees of a taxon show and few of its look-alikes, and the way has not asked; the most telling first.
func (g *grower) marksOf(mine int, like []int, way []*branch) []string {
	type found struct {
		words, section string
		parts          float64
	}
	var all []found
	for _, col := range g.columns {
		c := col.flora
		if col.shows[mine] == nil || len(like) == 0 || c.Kind == evidence.Numeric || c.FallsFrom != "" || onWay(way, c) ||
			c.ID == foliage || c.ID == hanging {
			continue
		}
		best := found{}
		for a, x := range col.shows[mine] {
			if x < confirms || c.Kind == evidence.Sign && a != isSeen || dull(c, a) {
				continue
			}
			if y := col.mean(like, a); y <= lacks && x-y > best.parts {
				words, _ := col.said(1<<a, 0)
				best = found{words, c.Section, x - y}
			}
		}
		if best.parts > 0 {
			all = append(all, best)
		}
	}
	slices.SortStableFunc(all, func(a, b found) int { return cmp.Compare(b.parts, a.parts) })
	out, had := []string{}, map[string]bool{}
	for _, f := range all {
		if len(out) < confirmMost && !had[f.section] { // one of each part of the tree says more
			out, had[f.section] = append(out, strings.ToLower(f.words[:1])+f.words[1:]), true
		}
	}
	return out
}

func onWay(way []*branch, c *flora.Character) bool {
	return slices.ContainsFunc(way, func(b *branch) bool {
		return slices.ContainsFunc(b.marks, func(h *half) bool { return h.col.flora == c })
	})
}

// dull says that a state is only that something is not there.
func dull(c *flora.Character, state int) bool {
	return len(c.States) > 0 && c.States[state].ID == "none"
}

// mean is how many of some taxa show an answer; those of whom it is not known could show any.
func (col *column) mean(taxa []int, answer int) (sum float64) {
	for _, t := range taxa {
		switch {
		case col.shows[t] != nil:
			sum += col.shows[t][answer] / float64(len(taxa))
		case col.seen[t] > 0:
			sum += math.Max(lacks, 1/float64(len(col.reads[t]))) / float64(len(taxa))
		}
	}
	return sum
}

func orList(words []string) string {
	if len(words) < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:len(words)-1], ", ") + " or " + words[len(words)-1]
}
