package key

import (
	"cmp"
	"context"
	"math"
	"slices"

	"palethicket/core/flora"
)

// How a key grows (chosen by what docs/keys.md measures).
const (
	kept      = 0.03 // a branch keeps every taxon that a fair observer brings there with more than this
	reckoned  = 1e-3 // and is reckoned with those whom one brings there with more than this
	surely    = 0.88 // a name ends the key that holds this much of those who come there
	nearly    = 0.97 // nothing is asked any more where a species holds this much
	worthBits = 0.10 // a question must tell this much
	worthAll  = 0.16 // and that much, over the trees of the list, of those who come to where it is asked
	mainly    = 0.30 // or part two taxa that are brought there by this many of those who read them
	deepest   = 16   // couplets on a way
	overhead  = 60.0 // seconds that reading a couplet and finding the next takes
	lacking   = 0.02 // share of a node's taxa without a part, over which it is not asked of
)

// gentle weighs a question down by the harm it does.
var gentle = map[string]float64{"none": 1, "scratch": 0.9, "flake": 0.8, "twig": 0.8}

// grower grows one key.
type grower struct {
	ctx     context.Context
	pool    *flora.Pool
	flora   *flora.Flora
	asked   *Asked
	taste   *Taste
	columns []*column
	key     *Key
}

// node is a place in a key: who came there.
type node struct {
	taxa   []int
	weight []float64 // common here times the chance of coming here
	reach  []float64 // chance of coming here, from the start
	used   map[string]bool
	depth  int
	back   int
}

// New makes a key. The error says what of the question cannot be; a list of one, or of trees
// that nothing parts, gives a key that ends at once and says why. It can be stopped by ctx.
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
	g := &grower{ctx: ctx, pool: p, flora: f, asked: &a, taste: &Tastes[taste]}
	e := fairError
	if a.Greedy {
		e = 0
	}
	for char := range p.Model.Characters() {
		c, zone := p.Character(char)
		if zone != flora.Breast || c.Section == "setting" || slices.Contains(a.But, c.ID) || g.taste.refuses != nil && g.taste.refuses(c) {
			continue
		}
		if col := columnOf(p, char, weights, e); col != nil {
			g.columns = append(g.columns, col)
		}
	}
	root := &node{used: map[string]bool{}}
	total := 0.0
	for t, w := range weights {
		if w > 0 {
			root.taxa, root.weight, root.reach = append(root.taxa, t), append(root.weight, w), append(root.reach, 1)
			total += w
		}
	}
	for i := range root.weight {
		root.weight[i] /= total
	}
	g.key = &Key{Title: g.title(), Taste: g.taste.ID, Couplets: []Couplet{}}
	for _, t := range root.taxa {
		g.key.Taxa = append(g.key.Taxa, p.Taxa[t].Name)
	}
	to, end := g.grow(root)
	if ctx.Err() != nil {
		return nil, ctx.Err()
	}
	if to == 0 {
		g.key.End = end
	}
	g.key.Says = g.says()
	g.key.Accounts = g.accounts(root)
	return g.key, nil
}

// question is a character put into leads at a node.
type question struct {
	col  *column
	all  []group
	bits float64
	rate float64
}

// grow writes the couplets from a node on, and gives the first of them, or the end there.
func (g *grower) grow(n *node) (couplet int, end *End) {
	p := n.shares()
	end = g.end(n, p)
	if len(n.taxa) == 1 || n.depth >= deepest || slices.Max(p) >= nearly || g.ctx.Err() != nil {
		return 0, end
	}
	q := g.best(n, p)
	if q == nil || !g.worthwhile(n, q) {
		switch {
		case end.Rank != Several:
		case q == nil:
			end.Why = "no winter mark that is asked here parts them"
		default:
			end.Why = WhyFew
		}
		return 0, end
	}
	at := len(g.key.Couplets)
	c := Couplet{N: at + 1, Back: n.back, Look: q.col.flora.Look}
	g.key.Couplets = append(g.key.Couplets, c)
	order := q.inOrder()
	for _, i := range order {
		lead := g.lead(n, p, q, i, order)
		child := n.into(&q.all[i], q.col.flora.ID, at+1)
		lead.Taxa = g.names(child)
		to, ends := g.grow(child)
		if lead.To = to; to == 0 {
			lead.Ends = ends
		}
		g.key.Couplets[at].Leads = append(g.key.Couplets[at].Leads, lead)
	}
	return g.tidy(at)
}

// worthwhile says whether a question is worth its lines: enough come there, or it is where two taxa mainly come.
func (g *grower) worthwhile(n *node, q *question) bool {
	mass, at := 0.0, 0
	for i, w := range n.weight {
		mass += w
		if n.reach[i] > mainly {
			at++
		}
	}
	return at > 1 || mass*q.bits > worthAll/float64(len(g.key.Taxa))
}

// tidy takes a question back whose leads all end in the same name: it tells nothing.
func (g *grower) tidy(at int) (couplet int, end *End) {
	leads := g.key.Couplets[at].Leads
	first := leads[0].Ends
	if first == nil || first.Rank == Several {
		return at + 1, nil
	}
	for i := range leads {
		if leads[i].Ends == nil || leads[i].Ends.Rank != first.Rank || leads[i].Ends.Name != first.Name {
			return at + 1, nil
		}
	}
	g.key.Couplets = g.key.Couplets[:at]
	return 0, first
}

func (n *node) shares() []float64 {
	total := 0.0
	for _, w := range n.weight {
		total += w
	}
	p := make([]float64, len(n.weight))
	for i, w := range n.weight {
		p[i] = w / total
	}
	return p
}

// into is who comes to a lead: those whom a fair observer could bring there.
func (n *node) into(g *group, char string, back int) *node {
	child := &node{used: map[string]bool{char: true}, depth: n.depth + 1, back: back}
	for c := range n.used {
		child.used[c] = true
	}
	best := 0
	for i, t := range n.taxa {
		if n.weight[i]*g.chance[i] > n.weight[best]*g.chance[best] {
			best = i
		}
		if n.reach[i]*g.chance[i] > reckoned {
			child.taxa = append(child.taxa, t)
			child.weight = append(child.weight, n.weight[i]*g.chance[i])
			child.reach = append(child.reach, n.reach[i]*g.chance[i])
		}
	}
	if len(child.taxa) == 0 { // nobody is brought here often: the likeliest stands for all
		child.taxa, child.weight, child.reach = []int{n.taxa[best]}, []float64{1}, []float64{kept}
	}
	return child
}

// best is the question that is worth most per minute at a node, or nil. What a question could tell at most
// orders them, so that few are put into leads.
func (g *grower) best(n *node, p []float64) *question {
	type bound struct {
		col  *column
		rate float64
	}
	var bounds []bound
	for _, col := range g.columns {
		if n.used[col.flora.ID] || col.flora.Section == "fruit" || g.lacked(n, p, col) { // few trees have kept their fruit
			continue
		}
		if bits := col.bits(n.taxa, p); bits > worthBits {
			bounds = append(bounds, bound{col, g.rate(col, bits)})
		}
	}
	slices.SortFunc(bounds, func(a, b bound) int {
		return cmp.Or(cmp.Compare(b.rate, a.rate), cmp.Compare(a.col.char, b.col.char))
	})
	var best *question
	for _, b := range bounds {
		if best != nil && b.rate <= best.rate {
			break
		}
		for _, all := range b.col.partings(n.taxa, p) {
			q := &question{col: b.col, all: all, bits: gain(all, p)}
			q.rate = g.rate(b.col, q.bits)
			if q.bits > worthBits && (best == nil || q.rate > best.rate) {
				best = q
			}
		}
	}
	return best
}

// bits is what a character tells at a node at most: with a lead for each answer.
func (col *column) bits(taxa []int, p []float64) float64 {
	total := 0.0
	for i := range col.answers {
		mass := 0.0
		for k, t := range taxa {
			x := p[k] * col.of(t, i)
			mass += x
			total += p[k] * xlog(col.of(t, i))
		}
		total -= xlog(mass)
	}
	return total
}

// rate is what a question is worth: bits a minute, less for harm, more where the taste likes it.
func (g *grower) rate(col *column, bits float64) float64 {
	c := col.flora
	r := bits / (float64(c.Seconds) + overhead) * 60 * gentle[c.Harm]
	if g.taste.prefers != nil {
		r *= g.taste.prefers(c)
	}
	if c.ID == foliage { // seen at once
		r *= 2
	}
	return r
}

// lacked says whether too many of those at a node lack the part.
func (g *grower) lacked(n *node, p []float64, col *column) bool {
	share := 0.0
	for i, t := range n.taxa {
		if col.chance[t] == nil {
			share += p[i]
		}
	}
	return share > lacking
}

// inOrder are the leads in the order of their first answers, so that they read alike.
func (q *question) inOrder() []int {
	order := make([]int, len(q.all))
	for i := range order {
		slices.Sort(q.all[i].answers)
		order[i] = i
	}
	slices.SortFunc(order, func(a, b int) int { return cmp.Compare(q.all[a].answers[0], q.all[b].answers[0]) })
	return order
}

// names are those whom a branch keeps, the likeliest first.
func (g *grower) names(n *node) []string {
	out := []string{}
	for _, k := range byShare(n.shares()) {
		if n.reach[k] > kept || len(out) == 0 {
			out = append(out, g.pool.Taxa[n.taxa[k]].Name)
		}
	}
	return out
}

func byShare(p []float64) []int {
	order := make([]int, len(p))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(p[b], p[a]) })
	return order
}

// end is where a key comes out at a node: the finest rank whose name holds enough of those who come there,
// else the taxa that hold it together.
func (g *grower) end(n *node, p []float64) *End {
	end := &End{Taxa: []string{}, Confirm: []string{}, Taken: []Taken{}}
	for _, rank := range []string{"species", "group", "genus", "family"} {
		sums := map[string]float64{}
		for i, t := range n.taxa {
			sums[g.nameAt(t, rank)] += p[i]
		}
		best, name := 0.0, ""
		for s, x := range sums {
			if s != "" && (x > best || x == best && s < name) {
				best, name = x, s
			}
		}
		if best >= surely {
			end.Rank, end.Name, end.chance = rank, name, best
			break
		}
	}
	together := 0.0
	for _, k := range byShare(p) {
		name := g.nameAt(n.taxa[k], end.Rank)
		if end.Rank == "" && together < math.Max(surely, 0.9) || end.Rank != "" && name == end.Name && p[k] > 0.01 {
			end.Taxa = append(end.Taxa, g.pool.Taxa[n.taxa[k]].Name)
			together += p[k]
		}
	}
	if end.Rank == "" {
		end.Rank, end.chance = Several, together
	}
	g.endWords(end, n, p)
	return end
}

// nameAt is what a taxon is called at a rank; "" where it has no such name.
func (g *grower) nameAt(t int, rank string) string {
	x := g.pool.Taxa[t]
	switch rank {
	case "species":
		return x.Name
	case "group":
		return x.Group
	case "genus":
		return x.Genus
	case "family":
		return x.Family
	}
	return ""
}
