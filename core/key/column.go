package key

import (
	"math"
	"slices"

	"palethicket/core/flora"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
)

// How a fair observer reads (record.md's words: fair, ruler, clear).
var (
	fairError  = record.ErrorRate["fair"]
	ruler      = record.Spread["ruler"]
	detect     = record.Detection["clear"]
	falseAlarm = record.FalseAlarm
)

// observer is who reads a key, fairly: with a twig in hand, or without.
type observer struct{ twig bool }

// observer is the one whom a key is for.
func (a *Asked) observer() observer {
	taste := Tastes[max(0, slices.IndexFunc(Tastes, func(t Taste) bool { return t.ID == a.Taste }))]
	return observer{twig: taste.refuses == nil || !taste.refuses(&flora.Character{Reach: "hand"})}
}

// counts says that a character is counted node by node on a twig in hand.
func (o observer) counts(c *flora.Character) bool { return c.ID == arrangement && o.twig }

// misread is how often the observer of a character is wrong: hardly, of what is green, and of what is counted.
func (o observer) misread(c *flora.Character) float64 {
	switch {
	case c.ID == foliage:
		return record.ErrorRate["sure"]
	case o.counts(c):
		return evidence.TallyError
	}
	return fairError
}

// belongs is the chance that what is looked at is of this tree.
func (o observer) belongs(c *flora.Character) float64 {
	switch {
	case o.counts(c):
	case c.Reach == "ground":
		return record.Belonging["litter"]
	case c.Reach == "crown":
		return record.Belonging["crown"]
	}
	return record.Belonging["tree"]
}

// told is how often it can be said what a character shows, where there is anything to see.
func (o observer) told(c *flora.Character) float64 {
	if c.ID == foliage || o.counts(c) {
		return 1
	}
	return c.Told
}

// column is what one character says of the trees of a list, at breast height.
type column struct {
	char  int   // of the model
	taxa  []int // that it is laid out for
	flora *flora.Character
	reads [][]float64 // by taxon, by answer: the chance that an observer reads it, where anything can be read
	shows [][]float64 // by taxon, by answer: as the flora has it; nil: not known, or no such part
	seen  []float64   // by taxon: the chance that anything can be read
	edges []float64   // of a measure: the answers' lower ends, but for the first
}

// The answers to a sign.
const (
	isSeen = iota
	isNot
)

// round are where a measure is cut: figures that people can tell on a rule.
var round = []float64{1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 30, 40, 50, 60, 80, 100, 120, 150, 200, 300, 500, 1000}

// columnOf lays a character out; nil: it says nothing of any tree of the list.
func columnOf(p *flora.Pool, char int, weights []float64, o observer) *column {
	c, _ := p.Character(char)
	n := len(p.Taxa)
	col := &column{char: char, flora: c, reads: make([][]float64, n), shows: make([][]float64, n), seen: make([]float64, n)}
	there := p.There(char, true, 0)
	known := 0.0
	for t, w := range weights {
		if w > 0 {
			col.taxa = append(col.taxa, t)
		}
		v := &p.Model.Taxa()[t].Values[char]
		col.seen[t] = o.told(c)
		if there != nil {
			col.seen[t] *= there[t]
		}
		if w > 0 && v.Knowledge == evidence.Known {
			known += w
		}
	}
	if known == 0 {
		return nil
	}
	switch c.Kind {
	case evidence.Numeric:
		col.measured(p.Model)
	case evidence.Sign:
		col.sign(p.Model)
	default:
		col.states(p.Model, o.misread(c))
	}
	col.standIn(weights, o.belongs(c))
	return col
}

func (col *column) known(m *evidence.Model, of func(t int, v *evidence.Value)) {
	for t := range m.Taxa() {
		if v := &m.Taxa()[t].Values[col.char]; v.Knowledge == evidence.Known {
			of(t, v)
		}
	}
}

func (col *column) sign(m *evidence.Model) {
	col.known(m, func(t int, v *evidence.Value) {
		read := v.Chance*detect + (1-v.Chance)*falseAlarm
		col.shows[t], col.reads[t] = []float64{v.Chance, 1 - v.Chance}, []float64{read, 1 - read}
	})
}

func (col *column) states(m *evidence.Model, misread float64) {
	states := len(col.flora.States)
	col.known(m, func(t int, v *evidence.Value) {
		col.shows[t], col.reads[t] = v.Dist, make([]float64, states)
	})
	q := make([]float64, m.Hypotheses())
	for i := range states {
		m.Likelihood(q, &evidence.Score{Character: col.char, States: 1 << i, Error: misread})
		for t := range col.reads {
			if col.reads[t] != nil {
				col.reads[t][i] = q[t]
			}
		}
	}
}

// measured lays a measure out between figures that can be told on a rule.
func (col *column) measured(m *evidence.Model) {
	wood, variance := m.Wood(col.char)
	noise := ruler * ruler
	spread := 2 * math.Sqrt(variance+noise)
	for _, x := range round {
		if x > math.Exp(wood-spread) && x < math.Exp(wood+spread) {
			col.edges = append(col.edges, x)
		}
	}
	stray := binned(col.edges, wood, variance+noise)
	col.known(m, func(t int, v *evidence.Value) {
		shows, reads := make([]float64, len(stray)), make([]float64, len(stray))
		for _, n := range v.Normals {
			own, read := binned(col.edges, n.Mean, n.Var), binned(col.edges, n.Mean, n.Var+noise)
			for i := range shows {
				shows[i] += n.Weight * own[i]
				reads[i] += n.Weight * ((1-fairError)*read[i] + fairError*stray[i])
			}
		}
		col.shows[t], col.reads[t] = shows, reads
	})
}

// binned is how much of a normal in ln x lies between edges.
func binned(edges []float64, mean, variance float64) []float64 {
	out := make([]float64, len(edges)+1)
	before := 0.0
	for i, x := range edges {
		upTo := 0.5 * math.Erfc(-(math.Log(x)-mean)/math.Sqrt(2*variance))
		out[i] = upTo - before
		before = upTo
	}
	out[len(edges)] = 1 - before
	return out
}

// standIn has those of whom it is not known read as the others of the list, and takes in that what is looked at may be of
// another tree of the wood.
func (col *column) standIn(weights []float64, own float64) {
	var wood []float64
	total := 0.0
	for t, row := range col.reads {
		if row == nil || weights[t] == 0 {
			continue
		}
		if wood == nil {
			wood = make([]float64, len(row))
		}
		total += weights[t]
		for i := range row {
			wood[i] += weights[t] * row[i]
		}
	}
	for i := range wood {
		wood[i] /= total
	}
	for t, row := range col.reads {
		if row == nil {
			col.reads[t] = wood
			continue
		}
		for i := range row {
			row[i] = own*row[i] + (1-own)*wood[i]
		}
	}
}

// half is a character parted in two: the answers of the first lead, as bits. reads and shows are, by taxon, the chance of one
// of them.
type half struct {
	col     *column
	answers uint64
	reads   []float64
	shows   []float64 // NaN: not known
	alone   []float64 // the chance of going to the first lead by this mark alone
	doubt   []float64 // the entropy of that, in bits
}

// answers is how many there are.
func (col *column) answers() int {
	switch col.flora.Kind {
	case evidence.Numeric:
		return len(col.edges) + 1
	case evidence.Sign:
		return isNot + 1
	}
	return len(col.flora.States)
}

// all is every answer, as bits.
func (col *column) all() uint64 { return 1<<col.answers() - 1 }

// halves are the ways to part a character that can be said: a scale or a measure is cut; of other states one is set apart from
// the rest, or two, or several that share a name.
func (col *column) halves() (out []*half) {
	c := col.flora
	n := len(c.States)
	switch {
	case c.Kind == evidence.Sign:
		return []*half{col.begin(1 << isSeen)}
	case c.Kind == evidence.Numeric:
		for i := range col.edges {
			out = append(out, col.begin(1<<(i+1)-1))
		}
		return out
	}
	seen := map[uint64]bool{}
	add := func(answers uint64) {
		if rest := col.all() &^ answers; answers != 0 && rest != 0 && !seen[answers] {
			seen[answers], seen[rest] = true, true
			out = append(out, col.begin(answers))
		}
	}
	for i := range c.Together {
		add(bitsOf(c, c.Together[i].States))
	}
	if c.Ordered {
		for i := 1; i < n; i++ {
			add(1<<i - 1)
		}
		return out
	}
	for i := range n {
		add(1 << i)
		for j := range i {
			add(1<<i | 1<<j)
		}
	}
	return out
}

func (col *column) half(answers uint64) *half {
	n := len(col.reads)
	all := make([]float64, 4*n)
	h := &half{col: col, answers: answers, reads: all[:n], shows: all[n : 2*n], alone: all[2*n : 3*n], doubt: all[3*n:]}
	for _, t := range col.taxa {
		h.reads[t], h.shows[t] = sum(col.reads[t], answers), math.NaN()
		if col.shows[t] != nil {
			h.shows[t] = sum(col.shows[t], answers)
		}
	}
	return h
}

// begin makes a half that a couplet may begin with.
func (col *column) begin(answers uint64) *half {
	h := col.half(answers)
	for _, t := range col.taxa {
		h.alone[t] = col.seen[t]*h.reads[t] + (1-col.seen[t])/2
		h.doubt[t] = entropy(h.alone[t])
	}
	return h
}

// sum is the chance of one of some answers.
func sum(chances []float64, answers uint64) (sum float64) {
	for i, x := range chances {
		if answers>>i&1 == 1 {
			sum += x
		}
	}
	return sum
}

// after is a character that was a mark of a couplet, on one of its sides: what is read of it is not read anew. came gives, of
// a taxon, the chance of coming to the side for a reading that is one of the answers, and for one that is not.
func (col *column) after(answers uint64, taxa []int, came func(t int) (in, out float64)) *column {
	one := &column{char: col.char, taxa: taxa, flora: col.flora, edges: col.edges, seen: col.seen,
		reads: slices.Clone(col.reads), shows: slices.Clone(col.shows)}
	for _, t := range taxa {
		in, out := came(t)
		given := func(row []float64) []float64 {
			rest, sum := make([]float64, len(row)), 0.0
			for i, x := range row {
				if rest[i] = x * out; answers>>i&1 == 1 {
					rest[i] = x * in
				}
				sum += rest[i]
			}
			for i := range rest {
				rest[i] /= max(sum, math.SmallestNonzeroFloat64)
			}
			return rest
		}
		one.reads[t] = given(col.reads[t])
		if col.shows[t] != nil {
			one.shows[t] = given(col.shows[t])
		}
	}
	return one
}
