package key

import (
	"cmp"
	"context"
	"math"
	"slices"

	"palethicket/core/flora"
)

// How a key grows. The figures were chosen by what docs/keys.md measures.
const (
	wrongWay   = 5.0 // bits that are lost with each tree that goes the wrong way
	wrongAlone = 2.0 // the same of a first mark alone: others will outvote most of its slips
	twice      = 0.5 // and with each tree that goes both ways; of a longer list than usual the more
	usual      = 100
	evenly     = 0.5  // how much of a tree's weight is the same for all of the list, so that the rare come out too
	parted     = 0.07 // an end of few that share a name: more than this would go the wrong way
	fewMost    = 3    // names at such an end
	ahead      = 5    // couplets that are thought through to the next ones
	firsts     = 20   // first marks that others are sought for
	overhead   = 60.0 // seconds that reading a couplet and finding the next takes
)

// gentle weighs a mark down by the harm it does.
var gentle = map[string]float64{"none": 1, "scratch": 0.9, "flake": 0.8, "twig": 0.8}

// late says that people ask for it late, and alone only between the last few: colors, scents, pith, what lies on the ground.
func late(c *flora.Character) bool {
	switch c.ID {
	case "bark.color", "bark.under-color", "bark.section", "bud.color",
		"twig.color", "twig.scent", "twig.pith", "twig.pith-color", "twig.milky-sap":
		return true
	}
	return c.Section == "ground"
}

// asks is how early practitioners ask for a character, as most hold (common practice): what is green, then how the twigs stand,
// thorns, what is plainest of the bark, and twig tips, buds and scars.
func asks(c *flora.Character) float64 {
	switch {
	case c.ID == foliage:
		return 4
	case c.ID == arrangement:
		return 3
	case c.ID == thorns || c.ID == habit:
		return 1.5
	case c.ID == "bark.texture" || c.ID == "bud.tip" || c.ID == "bud.scales":
		return 1.2
	case late(c):
		return 0.6
	case c.Section == "form":
		return 0.7
	}
	return 1
}

// grower grows one key.
type grower struct {
	ctx     context.Context
	pool    *flora.Pool
	flora   *flora.Flora
	asked   *Asked
	taste   *Taste
	columns []*column
	unlike  [][]float64 // by two taxa: in how many characters they differ
	twice   float64     // bits that are lost with each tree that goes both ways
	once    bool        // no tree goes both ways
	places  []int       // by taxon: in how many places it comes out so far
}

// node is a place in a key: who comes there, and what can still be asked.
type node struct {
	taxa   []int
	weight []float64 // of the tree in the list times the chance that it comes here
	halves []*half
}

func (n *node) add(t int, w float64) { n.taxa, n.weight = append(n.taxa, t), append(n.weight, w) }

func (n *node) mass() (sum float64) {
	for _, w := range n.weight {
		sum += w
	}
	return sum
}

// branch is a node of a key with the couplet that parts it and what its leads lead to; or an end.
type branch struct {
	*couplet
	node   *node
	leads  [2]*branch
	end    *End
	places int // where trees come out of it
}

// New makes a key. The error says what of the question cannot be; a list of one, or of trees that nothing parts, gives a key
// that ends at once and says why. It can be stopped by ctx.
func New(ctx context.Context, f *flora.Flora, a Asked) (*Key, error) {
	taste := slices.IndexFunc(Tastes, func(t Taste) bool { return t.ID == cmp.Or(a.Taste, "whole") })
	if taste < 0 {
		return nil, ErrTaste
	}
	p, err := a.pool(f)
	if err != nil {
		return nil, err
	}
	weights, err := a.chosen(p)
	if err != nil {
		return nil, err
	}
	g := &grower{ctx: ctx, pool: p, flora: f, asked: &a, taste: &Tastes[taste], places: make([]int, len(p.Taxa))}
	g.layOut(weights)
	top := g.grow(g.root(weights))
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	k := &Key{Title: g.title(), Age: cmp.Or(a.Age, "mature"), Taste: g.taste.ID, Couplets: []Couplet{}}
	for _, t := range top.node.taxa {
		k.Taxa = append(k.Taxa, p.Taxa[t].Name)
	}
	if k.End = top.end; top.end == nil {
		g.number(k, top)
	}
	k.Says = g.says(k)
	return k, nil
}

// layOut lays out the characters that are asked of.
func (g *grower) layOut(weights []float64) {
	for char := range g.pool.Model.Characters() {
		c, zone := g.pool.Character(char)
		if zone != flora.Breast || c.Section == "setting" || c.ID == diameter || slices.Contains(g.asked.But, c.ID) ||
			g.taste.refuses != nil && g.taste.refuses(c) {
			continue
		}
		if col := columnOf(g.pool, char, weights, g.asked.observer()); col != nil {
			g.columns = append(g.columns, col)
		}
	}
}

// root is where a key begins.
func (g *grower) root(weights []float64) *node {
	n := &node{}
	for t, w := range weights {
		if w > 0 {
			n.taxa = append(n.taxa, t)
			g.places[t] = 1
		}
	}
	for _, t := range n.taxa {
		n.weight = append(n.weight, (1-evenly)*weights[t]+evenly/float64(len(n.taxa)))
	}
	for _, col := range g.columns {
		n.halves = append(n.halves, col.halves()...)
	}
	g.twice = twice * math.Max(0.8, float64(len(n.taxa))/usual)
	g.compare(n.taxa)
	return n
}

// grow grows a key from a node on.
func (g *grower) grow(n *node) *branch {
	b := &branch{node: n, places: 1}
	if len(n.taxa) == 1 || g.ctx.Err() != nil {
		b.end = g.end(n)
		return b
	}
	c := g.best(n)
	if c == nil && !g.shareName(n.taxa) { // trees that share no name are parted, though not at two places
		g.once = true
		c = g.best(n)
		g.once = false
	}
	if c == nil || len(n.taxa) <= fewMost && c.wrong > parted && g.shareName(n.taxa) {
		b.end = g.end(n)
		return b
	}
	for _, t := range c.both {
		g.places[t]++
	}
	b.couplet = c
	for i, side := range c.sides {
		b.leads[i] = g.grow(side)
	}
	b.places = b.leads[0].places + b.leads[1].places
	return b
}

// best is the couplet that parts a node best, a look ahead counted in; nil: nothing parts it.
func (g *grower) best(n *node) (best *couplet) {
	found := append(g.byMarks(n), g.byLikeness(n)...)
	slices.SortStableFunc(found, func(a, b *couplet) int { return cmp.Compare(b.score, a.score) })
	found = before(found)
	most := math.Inf(-1)
	for _, c := range found[:min(len(found), ahead)] {
		value := c.score
		for i, side := range c.sides {
			side.halves = c.leaves(n.halves, i)
			value += side.mass() / n.mass() * g.onward(side)
		}
		if value > most {
			best, most = c, value
		}
	}
	return best
}

// before leaves, of couplets, those that ask what everybody asks first, where one of them parts the trees well: what is green,
// then how the twigs stand.
func before(found []*couplet) []*couplet {
	for _, id := range []string{foliage, arrangement} {
		first := slices.DeleteFunc(slices.Clone(found), func(c *couplet) bool {
			return c.marks[0].col.flora.ID != id || c.wrong > parted/2 || len(c.both) > 0
		})
		if len(first) > 0 {
			return first
		}
	}
	return found
}

// onward is what the best first mark at a node is worth.
func (g *grower) onward(n *node) float64 {
	if len(n.taxa) < 2 {
		return 0
	}
	best := -wrongWay / 4 // nothing parts them
	for _, h := range n.halves {
		if v, ok := g.worth(n, h); ok {
			best = math.Max(best, v)
		}
	}
	return best
}

// worth is what a half is worth as a first mark, alone; false: it parts nothing.
func (g *grower) worth(n *node, h *half) (float64, bool) {
	total, first, within, wrong := 0.0, 0.0, 0.0, 0.0
	sides := [2]bool{}
	for i, t := range n.taxa {
		w, x := n.weight[i], h.alone[t]
		total += w
		first += w * x
		within += w * h.doubt[t]
		wrong += w * math.Min(x, 1-x)
		sides[side(x)] = true
	}
	bits := entropy(first/total) - within/total
	return bits*g.likes(h.col.flora) - wrongAlone*wrong/total, sides[0] && sides[1]
}

// likes is how much a character is liked as the first mark.
func (g *grower) likes(c *flora.Character) float64 {
	x := asks(c) * gentle[c.Harm] * overhead / (float64(c.Seconds) + overhead)
	if g.taste.prefers != nil {
		x *= g.taste.prefers(c)
	}
	return x
}

// mayBegin says whether a couplet's first mark may be of a character. Few trees have kept their fruit.
func mayBegin(c *flora.Character) bool { return c.Section != "fruit" || c.ID == "fruit.leaves-held" }

// byMarks are couplets that begin with the marks that are worth most.
func (g *grower) byMarks(n *node) (out []*couplet) {
	type start struct {
		half  *half
		worth float64
	}
	var starts []start
	for _, h := range n.halves {
		if v, ok := g.worth(n, h); ok && mayBegin(h.col.flora) {
			starts = append(starts, start{h, v})
		}
	}
	slices.SortStableFunc(starts, func(a, b start) int { return cmp.Compare(b.worth, a.worth) })
	for _, s := range starts[:min(len(starts), firsts)] {
		if c := g.agreed(n, s.half); c != nil {
			out = append(out, c)
		}
	}
	return out
}

// byLikeness are couplets that part trees that are like each other from the rest: they differ in much.
func (g *grower) byLikeness(n *node) (out []*couplet) {
	for _, alike := range g.clusters(n) {
		c := &couplet{first: alike}
		var first *half
		most := 0.0
		for _, col := range n.columns() {
			if late(col.flora) || !mayBegin(col.flora) {
				continue
			}
			if h, agrees := c.agreeing(n, col); h != nil && agrees*g.likes(col.flora) > most {
				first, most = h, agrees*g.likes(col.flora)
			}
		}
		if first == nil {
			continue
		}
		if c = g.agreed(n, first); c != nil {
			out = append(out, c)
		}
	}
	return out
}

// columns are the characters of a node's halves.
func (n *node) columns() (out []*column) {
	for i, h := range n.halves {
		if i == 0 || h.col != n.halves[i-1].col {
			out = append(out, h.col)
		}
	}
	return out
}

// entropy is that of a choice of two, in bits.
func entropy(x float64) float64 { return -xlog(x) - xlog(1-x) }

func xlog(x float64) float64 {
	if x <= 0 {
		return 0
	}
	return x * math.Log2(x)
}
