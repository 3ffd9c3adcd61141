package evidence

import (
	"math"

	"palethicket/core/weigh/portable"
)

// Setting is how a character not yet scored would be scored.
type Setting struct {
	Error         float64
	Spread        float64
	Readings      int
	Detect, False float64
}

// What stands in for a continuous or countable answer when outcomes are listed.
const (
	Bins       = 16 // equal bins in ln x for a measurement
	TallyNodes = 5  // nodes counted in an arrangement not yet looked at
)

// Outcomes gives, for each answer a character can get under the setting, the
// chance of that answer under every hypothesis: rows of [Model.Hypotheses]
// numbers. Where some taxa have no such part, "there is no such part" is the
// last row. A character no taxon knows has no outcomes.
func (m *Model) Outcomes(char int, set Setting) [][]float64 {
	col := &m.columns[char]
	if col.knownShare == 0 {
		return nil
	}
	s := Score{Character: char, Error: set.Error, Spread: set.Spread, Readings: set.Readings,
		Detect: set.Detect, False: set.False}
	var rows [][]float64
	add := func(s Score) {
		q := make([]float64, m.Hypotheses())
		m.Likelihood(q, &s)
		rows = append(rows, q)
	}
	e := set.Error
	switch m.chars[char].Kind {
	case Categorical:
		for j := range col.states {
			s.States = 1 << j
			add(s)
		}
	case Sign:
		for _, s.Seen = range []bool{true, false} {
			add(s)
		}
	case Tally:
		e = TallyError
		s.Nodes = TallyNodes
		for s.Pairs = 0; s.Pairs <= s.Nodes; s.Pairs++ {
			add(s)
		}
	case Numeric:
		rows = m.binned(col, set)
	}
	if none := m.NoSuchPart(char, e); none != nil {
		rows = append(rows, none)
	}
	return rows
}

// NoSuchPart gives the chance, under every hypothesis, of the answer "there is
// no such part": 1-e for the taxa that lack it, 0 for the others. It is nil
// where every taxon has the part.
func (m *Model) NoSuchPart(char int, e float64) []float64 {
	col := &m.columns[char]
	if len(col.absent) == 0 {
		return nil
	}
	none := make([]float64, m.Hypotheses())
	for _, t := range col.absent {
		none[t] = 1 - e
	}
	return none
}

// BinEdges gives the inner edges, in the character's unit, of the bins that
// stand for a measurement's outcomes: one fewer than [Bins], ascending.
func (m *Model) BinEdges(char int, set Setting) []float64 {
	edges := m.columns[char].edges(noise(set))
	for i := range edges {
		edges[i] = portable.Exp(edges[i])
	}
	return edges
}

func noise(set Setting) float64 { return set.Spread * set.Spread / float64(max(set.Readings, 1)) }

// edges gives the inner bin edges in ln x.
func (col *column) edges(noise float64) []float64 {
	lo, hi := math.Inf(1), math.Inf(-1)
	for _, k := range col.normals {
		reach := 3 * math.Sqrt(k.variance+noise)
		lo, hi = min(lo, k.mean-reach), max(hi, k.mean+reach)
	}
	edges := make([]float64, Bins-1)
	for i := range edges {
		edges[i] = lo + (hi-lo)*float64(i+1)/Bins
	}
	return edges
}

func (m *Model) binned(col *column, set Setting) [][]float64 {
	n, t2, e := len(m.taxa), noise(set), set.Error
	rows := make([][]float64, Bins)
	for k := range rows {
		rows[k] = make([]float64, n+1)
	}
	edges := col.edges(t2)
	stray := binShares(edges, col.mean, col.variance+t2)
	for _, p := range col.parts {
		of := col.normals[p.normal]
		for k, share := range binShares(edges, of.mean, of.variance+t2) {
			rows[k][p.taxon] += p.weight * ((1-e)*share + e*stray[k])
		}
	}
	wide := binShares(edges, col.mean, 4*col.variance+t2)
	for k, row := range rows {
		b := 0.0
		for t, share := range m.share {
			b += share * row[t]
		}
		b /= col.knownShare
		col.standIn(row, b, e)
		for _, t := range col.unknown {
			row[t] = b
		}
		row[n] = 0.5*b + 0.5*wide[k]
	}
	return rows
}

// binShares is the mass of a normal in each bin, the end bins taking the tails.
func binShares(edges []float64, mean, variance float64) []float64 {
	shares := make([]float64, len(edges)+1)
	sd, below := math.Sqrt(variance), 0.0
	for i, edge := range edges {
		upTo := 0.5 * portable.Erfc((mean-edge)/(sd*math.Sqrt2))
		shares[i], below = upTo-below, upTo
	}
	shares[len(edges)] = 1 - below
	return shares
}
