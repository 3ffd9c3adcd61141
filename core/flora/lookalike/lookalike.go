// Package lookalike works out which taxa are taken for each other: how many
// bits a complete twig, the bark and both are worth between two of them.
//
// The worth of a character between two taxa is the expected weight of evidence
// of one usual score of it, taken over both as the true one: half the symmetric
// divergence of Kullback and Leibler 1951, "On Information and Sufficiency",
// Ann. Math. Stat. 22:79. Characters are added up as if independent, so the
// sums order the pairs rather than measure them. A character that is not known
// of one of the two counts as much as it does between two taxa of the pool on
// average: what is not known is no likeness.
//
// Evergreens and bare trees are told apart at a glance and are not look-alikes.
package lookalike

import (
	"cmp"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/portable"
)

// Pair is two taxa of a pool and the bits between them.
type Pair struct {
	A, B       int // indices into the pool's taxa
	Twig, Bark float64
	Both       float64
	By         []Worth // by character, the most first
}

// Worth is what one character is worth between two taxa, in bits.
type Worth struct {
	Character string
	Bits      float64
}

// Table holds the answers of every taxon of a pool to what is judged at breast height. It is
// immutable and safe for use by several goroutines.
type Table struct {
	pool *flora.Pool
	of   map[string]*column
	cols []*column // those of twig and bark
}

type column struct {
	id   string
	bark bool
	// known says which taxa the character is known of; q and logs hold their
	// answers and log2 of those.
	known   []bool
	q, logs [][]float64
	mean    float64 // worth between two taxa it is known of, on average
}

// NewTable works out the answers of a pool's taxa.
func NewTable(p *flora.Pool) *Table {
	t := &Table{pool: p, of: map[string]*column{}}
	for i := range p.Model.Characters() {
		c, zone := p.Character(i)
		if zone != flora.Breast {
			continue
		}
		col := newColumn(p, i, c)
		t.of[c.ID] = col
		if isTwig(c) || isBark(c) {
			col.mean = col.average()
			t.cols = append(t.cols, col)
		}
	}
	return t
}

// foliage is judged before anything else.
const foliage = "needle.kept"

// apart is the worth of foliage from which on nobody takes one for the other.
const apart = 3

func isTwig(c *flora.Character) bool {
	return slices.Contains([]string{"twig", "bud", "scar", "needle"}, c.Section)
}

func isBark(c *flora.Character) bool { return c.Section == "bark" }

// leastChance keeps an answer that a taxon never gives from outweighing all
// others.
const leastChance = 1e-3

func newColumn(p *flora.Pool, i int, c *flora.Character) *column {
	col := &column{id: c.ID, bark: isBark(c)}
	rows := p.Model.Outcomes(i, evidence.Setting{Error: record.ErrorRate["fair"], Spread: record.Spread["ruler"],
		Readings: 1, Detect: record.Detection["clear"], False: record.FalseAlarm})
	if len(rows) > 0 && p.Model.NoSuchPart(i, record.ErrorRate["fair"]) != nil { // none where no taxon knows it
		rows = rows[:len(rows)-1]
	}
	for t := range p.Taxa {
		col.known = append(col.known, p.Model.Taxa()[t].Values[i].Knowledge == evidence.Known)
		q, logs := make([]float64, len(rows)), make([]float64, len(rows))
		for o, row := range rows {
			q[o] = max(row[t], leastChance)
			logs[o] = portable.Log2(q[o])
		}
		col.q, col.logs = append(col.q, q), append(col.logs, logs)
	}
	return col
}

// average is the worth of the column between two taxa it is known of.
func (c *column) average() float64 {
	sum, pairs := 0.0, 0
	for a := range c.q {
		for b := range a {
			if c.known[a] && c.known[b] {
				sum += c.between(a, b)
				pairs++
			}
		}
	}
	return sum / float64(max(pairs, 1))
}

// Of is what one character of any kind is worth between two of some taxa, in bits, on average
// over their pairs; 0 for a pair where it is not known of both.
func (t *Table) Of(id string, taxa ...int) float64 {
	col := t.of[id]
	if col == nil {
		return 0
	}
	sum, pairs := 0.0, 0
	for k, a := range taxa {
		for _, b := range taxa[:k] {
			pairs++
			if col.known[a] && col.known[b] {
				sum += col.between(a, b)
			}
		}
	}
	return sum / float64(max(pairs, 1))
}

// between is the worth of the column between two taxa.
func (c *column) between(a, b int) float64 {
	if !c.known[a] || !c.known[b] {
		return c.mean
	}
	sum := 0.0
	for o := range c.q[a] {
		sum += (c.q[a][o] - c.q[b][o]) * (c.logs[a][o] - c.logs[b][o])
	}
	return sum / 2
}

// Between gives the bits between two taxa of the pool.
func (t *Table) Between(a, b int) Pair {
	p := t.sums(a, b)
	for _, c := range t.cols {
		if bits := c.between(a, b); c.known[a] && c.known[b] {
			p.By = append(p.By, Worth{c.id, bits})
		}
	}
	slices.SortFunc(p.By, func(x, y Worth) int {
		return cmp.Or(cmp.Compare(y.Bits, x.Bits), strings.Compare(x.Character, y.Character))
	})
	return p
}

func (t *Table) sums(a, b int) Pair {
	p := Pair{A: a, B: b}
	for _, c := range t.cols {
		if bits := c.between(a, b); c.bark {
			p.Bark += bits
		} else {
			p.Twig += bits
		}
	}
	p.Both = p.Twig + p.Bark
	return p
}

// A taxon has at least two look-alikes and at most five; beyond the second they
// must be close.
const (
	leastNear = 2
	mostNear  = 5
	closeBits = 8
)

// Nearest gives a taxon's look-alikes, the nearest first.
func (t *Table) Nearest(a int) []Pair {
	var all []Pair
	for b := range t.pool.Taxa {
		if b != a && t.Of(foliage, a, b) < apart {
			all = append(all, t.sums(a, b))
		}
	}
	slices.SortFunc(all, func(x, y Pair) int {
		return cmp.Or(cmp.Compare(x.Both, y.Both), cmp.Compare(x.B, y.B))
	})
	n := 0
	for n < len(all) && n < mostNear && (n < leastNear || all[n].Both <= closeBits) {
		n++
	}
	near := make([]Pair, n)
	for i := range near {
		near[i] = t.Between(a, all[i].B)
	}
	return near
}
