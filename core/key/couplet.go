package key

import (
	"cmp"
	"math"
	"slices"

	"palethicket/core/weigh/evidence"
)

// What makes a couplet.
const (
	marksMost = 3    // of a lead
	tries     = 6    // marks that agree best, of which up to two are taken
	ownSide   = 0.8  // of the trees of each side must show their own side's states, for a mark to agree
	knownOf   = 0.4  // of each side it must be known, and be there to be seen
	truly     = 0.2  // of its trees must show either side of a mark, for a tree to come out at two places
	doubles   = 0.07 // and as many would go the wrong way
	places    = 3    // where a tree may come out, at most
)

// couplet parts a node: up to three halves that agree, the first being the one that decides between two.
type couplet struct {
	marks    []*half
	first    []float64 // by the node's taxa: the chance of going to the first lead
	score    float64
	wrong    float64 // share of the node that goes the wrong way
	sides    [2]*node
	both     []int // taxa that go to both
	commoner int   // the side that is taken where no mark is seen
}

// side is where a taxon goes that goes to the first lead with a chance.
func side(first float64) int {
	if first >= 0.5 {
		return 0
	}
	return 1
}

// agreed makes a couplet of a first mark and those that agree with it; nil: it parts nothing, or must not be asked alone.
func (g *grower) agreed(n *node, first *half) *couplet {
	c := g.parting(n, first)
	for range 2 { // the second time by the sides that all marks give
		next := g.supported(n, c)
		if next.score <= c.score {
			break
		}
		c = next
	}
	a, b := len(c.sides[0].taxa), len(c.sides[1].taxa)
	if min(a, b) == 0 || max(a, b) == len(n.taxa) || late(first.col.flora) && len(c.marks) == 1 && len(n.taxa) > fewMost {
		return nil
	}
	return c
}

// supported is the best of a couplet's first mark alone, with one, or with two of those that agree with it.
func (g *grower) supported(n *node, c *couplet) *couplet {
	best := g.parting(n, c.marks[0])
	more := c.support(n)
	try := func(marks ...*half) {
		if next := g.parting(n, marks...); next.score > best.score {
			best = next
		}
	}
	for i, a := range more {
		try(c.marks[0], a)
		for _, b := range more[:i] {
			if !samePart(a, b) {
				try(c.marks[0], a, b)
			}
		}
	}
	return best
}

// support are the halves that agree best with a couplet, each of another part of the tree than its first mark.
func (c *couplet) support(n *node) (out []*half) {
	type found struct {
		half   *half
		agrees float64
	}
	var all []found
	for _, col := range n.columns() {
		if h, agrees := c.agreeing(n, col); h != nil && !samePart(h, c.marks[0]) {
			all = append(all, found{h, agrees})
		}
	}
	slices.SortStableFunc(all, func(a, b found) int { return cmp.Compare(b.agrees, a.agrees) })
	for _, f := range all[:min(len(all), tries)] {
		out = append(out, f.half)
	}
	return out
}

// samePart says whether two marks are read off the same part, so that one mistake spoils both.
func samePart(a, b *half) bool {
	x, y := a.col.flora, b.col.flora
	return x == y || x.Section == y.Section && x.Section != "form"
}

// agreeing is the half of a character that parts the trees most as a couplet does, and how well; nil: none does, or it cannot
// be said. On each side enough must show their own side's states.
func (c *couplet) agreeing(n *node, col *column) (*half, float64) {
	shown := [2][]float64{make([]float64, col.answers()), make([]float64, col.answers())}
	known, all := [2]float64{}, [2]float64{}
	for i, t := range n.taxa {
		w, s := n.weight[i], side(c.first[i])
		all[s] += w
		if col.shows[t] == nil {
			continue
		}
		w *= col.seen[t]
		known[s] += w
		for a, x := range col.shows[t] {
			shown[s][a] += w * x
		}
	}
	if known[0] <= knownOf*all[0] || known[1] <= knownOf*all[1] {
		return nil, 0
	}
	own := [2]float64{}
	set := col.dividing(shown, known)
	for a := range shown[0] {
		s := 1 - int(set>>a&1)
		own[s] += shown[s][a] / known[s]
	}
	if set == 0 || set == col.all() || own[0] < ownSide || own[1] < ownSide || !col.sayable(set, n, c) {
		return nil, 0
	}
	h, agrees := col.half(set), 0.0
	for i, t := range n.taxa {
		agrees += n.weight[i] * col.seen[t] * (2*h.reads[t] - 1) * float64(1-2*side(c.first[i]))
	}
	return h, agrees
}

// dividing are the answers that more of the first side show than of the other, as bits; of a measure or a scale those up to a
// cut, or from it on.
func (col *column) dividing(shown [2][]float64, known [2]float64) (set uint64) {
	sum, most := 0.0, 0.0
	inRow := col.flora.Kind == evidence.Numeric || col.flora.Ordered
	for a := range shown[0] {
		more := shown[0][a]/known[0] - shown[1][a]/known[1]
		if !inRow && more > 0 {
			set |= 1 << a
		}
		sum += more
		if below := uint64(1)<<(a+1) - 1; inRow && math.Abs(sum) > most {
			if most, set = math.Abs(sum), below; sum < 0 {
				set = col.all() &^ below
			}
		}
	}
	return set
}

// sayable says whether both sides of a set can be said in few words.
func (col *column) sayable(set uint64, n *node, c *couplet) bool {
	if len(col.flora.States) == 0 {
		return true
	}
	sides := [2]*node{{}, {}}
	for i, t := range n.taxa {
		sides[side(c.first[i])].add(t, n.weight[i])
	}
	for i, answers := range []uint64{set, col.all() &^ set} {
		if _, few := col.said(answers, col.likely(sides[i])); !few {
			return false
		}
	}
	return true
}

// parting works out what marks do at a node: who goes where.
func (g *grower) parting(n *node, marks ...*half) *couplet {
	c := &couplet{marks: marks, first: make([]float64, len(n.taxa))}
	commoner := 0.0
	for i, t := range n.taxa {
		commoner += n.weight[i] * (marks[0].reads[t] - 0.5)
	}
	c.commoner = side(0.5 + commoner)
	total, first, within := 0.0, 0.0, 0.0
	for i, t := range n.taxa {
		x := c.given(t, -1, 0)
		c.first[i] = x
		total += n.weight[i]
		first += n.weight[i] * x
		within += n.weight[i] * entropy(x)
	}
	wrong, doubled := g.assign(n, c)
	c.wrong = wrong / total
	bits := entropy(first/total) - within/total
	c.score = bits*g.likes(marks[0].col.flora) - (wrongWay*wrong+g.twice*doubled)/total
	return c
}

// assign sends each taxon to its side, or to both where it truly varies.
func (g *grower) assign(n *node, c *couplet) (wrong, doubled float64) {
	c.sides = [2]*node{{}, {}}
	for i, t := range n.taxa {
		x, w := c.first[i], n.weight[i]
		if !g.once && math.Min(x, 1-x) > doubles && g.places[t] < places && c.varies(t) {
			c.both = append(c.both, t)
			doubled += w
			c.sides[0].add(t, w*x)
			c.sides[1].add(t, w*(1-x))
			continue
		}
		chance := math.Max(x, 1-x)
		wrong += w * (1 - chance)
		c.sides[side(x)].add(t, w*chance)
	}
	return wrong, doubled
}

// varies says whether some of a taxon's trees show one side of the first mark, and some the other.
func (c *couplet) varies(t int) bool {
	return c.marks[0].shows[t] >= truly && c.marks[0].shows[t] <= 1-truly
}

// given is the chance that a taxon goes to the first lead, where one of the marks is read (-1: none is) and speaks for the
// first lead (1) or the other (0).
func (c *couplet) given(t, read int, says float64) float64 {
	var seen, first [marksMost]float64
	for i, m := range c.marks {
		if seen[i], first[i] = m.col.seen[t], m.reads[t]; i == read {
			seen[i], first[i] = 1, says
		}
	}
	return vote(seen, first, float64(1-c.commoner))
}

// vote is the chance that the first lead is followed: more of three marks fit it, or it is the one of two that the earlier of
// them fits. seen is by mark the chance that it can be read, first that it then speaks for the first lead, and nothing the
// chance where none can be read.
func vote(seen, first [marksMost]float64, nothing float64) float64 {
	later := seen[1]*first[1] + (1-seen[1])*(seen[2]*first[2]+(1-seen[2])*nothing)
	bothFor, bothAgainst := seen[1]*first[1]*seen[2]*first[2], seen[1]*(1-first[1])*seen[2]*(1-first[2])
	return seen[0]*(first[0]*(1-bothAgainst)+(1-first[0])*bothFor) + (1-seen[0])*later
}

// leaves is what can still be asked on one side of a couplet: of its own marks only what they leave open.
func (c *couplet) leaves(halves []*half, side int) (out []*half) {
	for _, h := range halves {
		if !slices.ContainsFunc(c.marks, func(m *half) bool { return m.col == h.col }) {
			out = append(out, h)
		}
	}
	for i, m := range c.marks {
		answers := m.answers
		if side == 1 {
			answers = m.col.all() &^ m.answers
		}
		came := func(t int) (in, out float64) {
			if side == 1 {
				return 1 - c.given(t, i, 0), 1 - c.given(t, i, 1)
			}
			return c.given(t, i, 1), c.given(t, i, 0)
		}
		for _, h := range m.col.after(answers, c.sides[side].taxa, came).halves() {
			if h.answers&answers != 0 && answers&^h.answers != 0 {
				out = append(out, h)
			}
		}
	}
	return out
}
