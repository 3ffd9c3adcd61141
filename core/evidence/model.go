package evidence

import (
	"errors"
	"fmt"
	"math"
)

// Model is a pool of taxa ready for scoring. It is immutable and safe for use
// by several goroutines at once.
type Model struct {
	chars    []Character
	taxa     []Taxon
	share    []float64
	prior    []float64 // one per taxon, then the unlisted
	unlisted float64
	columns  []column
}

// column holds one character over all taxa. Matrices are laid out state by
// state, so that scoring one state reads memory from end to end.
type column struct {
	states int
	// hit[j*n+t] is p_t(j); slip[j*n+t] is Σ_{i≠j} p_t(i)·c(i,j). Both are 0
	// for taxa that do not know the character or lack the part.
	hit, slip         []float64
	hitMean, slipMean []float64 // the same, averaged over the wood's known taxa
	chance            []float64 // sign: p_t, 0 where not known
	chanceMean        float64
	// unknown[t] and absent[t] are 1 or 0; b(o) is given to the first and
	// e·b(o) to the second.
	unknown, absent []float64
	anyAbsent       bool
	knownShare      float64 // total share of the taxa whose value is known
	parts           []part
	mean, variance  float64 // numeric: moments in ln x of the wood's mix
}

// part is one normal of one taxon's numeric value.
type part struct {
	taxon              int
	weight, mean, var_ float64
}

// NewModel lays a pool out for scoring. unlisted is the prior of the
// hypothesis that the tree is none of the taxa. It fails when a taxon's values
// do not fit the characters, naming both.
func NewModel(chars []Character, taxa []Taxon, unlisted float64) (*Model, error) {
	if len(taxa) == 0 {
		return nil, errors.New("a pool needs at least one taxon")
	}
	if !(unlisted >= 0 && unlisted < 1) {
		return nil, fmt.Errorf("prior of the unlisted is %v, want 0 ≤ u < 1", unlisted)
	}
	m := &Model{chars: chars, taxa: taxa, unlisted: unlisted, columns: make([]column, len(chars))}
	total := 0.0
	for _, t := range taxa {
		if !(t.Weight > 0) {
			return nil, fmt.Errorf("%s: weight %v, want more than 0", t.Name, t.Weight)
		}
		if len(t.Values) != len(chars) {
			return nil, fmt.Errorf("%s: %d values for %d characters", t.Name, len(t.Values), len(chars))
		}
		total += t.Weight
	}
	for _, t := range taxa {
		m.share = append(m.share, t.Weight/total)
		m.prior = append(m.prior, (1-unlisted)*t.Weight/total)
	}
	m.prior = append(m.prior, unlisted)
	for c := range chars {
		if err := m.fill(c); err != nil {
			return nil, err
		}
	}
	return m, nil
}

// Taxa gives the pool's taxa, in the order of every result. Do not change them.
func (m *Model) Taxa() []Taxon { return m.taxa }

// Characters gives the model's characters. Do not change them.
func (m *Model) Characters() []Character { return m.chars }

// Hypotheses is the number of taxa and one for the unlisted, which comes last.
func (m *Model) Hypotheses() int { return len(m.taxa) + 1 }

// Prior gives the prior of every hypothesis. Do not change it.
func (m *Model) Prior() []float64 { return m.prior }

// Share gives each taxon's part of the wood. Do not change it.
func (m *Model) Share() []float64 { return m.share }

// KnownShare is the share of the wood whose value of the character is known.
func (m *Model) KnownShare(char int) float64 { return m.columns[char].knownShare }

func (m *Model) fill(c int) error {
	ch, n := &m.chars[c], len(m.taxa)
	if len(ch.States) > MaxStates {
		return fmt.Errorf("%s: %d states, at most %d can be held", ch.ID, len(ch.States), MaxStates)
	}
	if ch.Kind == Tally && len(ch.Shapes) != len(ch.States) {
		return fmt.Errorf("%s: %d classes but %d shapes", ch.ID, len(ch.States), len(ch.Shapes))
	}
	col := &m.columns[c]
	*col = column{states: len(ch.States), unknown: make([]float64, n), absent: make([]float64, n)}
	switch ch.Kind {
	case Categorical, Tally:
		col.hit, col.slip = make([]float64, col.states*n), make([]float64, col.states*n)
		col.hitMean, col.slipMean = make([]float64, col.states), make([]float64, col.states)
	case Sign:
		col.chance = make([]float64, n)
	}
	for t := range m.taxa {
		v := &m.taxa[t].Values[c]
		switch {
		case v.Knowledge == Unknown:
			col.unknown[t] = 1
		case v.Knowledge == Absent && ch.Kind != Sign:
			col.absent[t], col.anyAbsent = 1, true
		default:
			col.knownShare += m.share[t]
			if err := col.take(ch, v, t, n); err != nil {
				return fmt.Errorf("%s: %s: %w", m.taxa[t].Name, ch.ID, err)
			}
		}
	}
	col.average(m.share)
	return nil
}

// take writes taxon t's known value into the column.
func (col *column) take(ch *Character, v *Value, t, n int) error {
	switch ch.Kind {
	case Categorical, Tally:
		if len(v.Dist) != col.states {
			return fmt.Errorf("%d chances for %d states", len(v.Dist), col.states)
		}
		for i, p := range v.Dist {
			col.hit[i*n+t] = p
			for j := range v.Dist {
				if i != j {
					col.slip[j*n+t] += p * ch.confusion(i, j)
				}
			}
		}
	case Sign:
		col.chance[t] = v.Chance // a part that is not there is never shown
	case Numeric:
		if len(v.Normals) == 0 {
			return errors.New("a known measurement needs a range")
		}
		for _, k := range v.Normals {
			col.parts = append(col.parts, part{t, k.Weight, k.Mean, k.Var})
		}
	}
	return nil
}

// average works out the wood's own mix over the known taxa.
func (col *column) average(share []float64) {
	if col.knownShare == 0 {
		return
	}
	n := len(share)
	for j := range col.hitMean {
		for t, s := range share {
			col.hitMean[j] += s * col.hit[j*n+t] / col.knownShare
			col.slipMean[j] += s * col.slip[j*n+t] / col.knownShare
		}
	}
	for t := range col.chance {
		col.chanceMean += share[t] * col.chance[t] / col.knownShare
	}
	square := 0.0
	for _, p := range col.parts {
		w := share[p.taxon] * p.weight / col.knownShare
		col.mean += w * p.mean
		square += w * (p.var_ + p.mean*p.mean)
	}
	col.variance = square - col.mean*col.mean
}

// confusion is c(i,j), with equal shares where the character gives no row.
func (ch *Character) confusion(i, j int) float64 {
	if i < len(ch.Confusion) && ch.Confusion[i] != nil {
		return ch.Confusion[i][j]
	}
	return 1 / float64(len(ch.States)-1)
}

// RangeNormal gives the normal in ln x whose middle 90 % runs from lo to hi.
// 1.6448536… is the 95 % point of the standard normal distribution.
func RangeNormal(lo, hi float64) Component {
	a, b := math.Log(lo), math.Log(hi)
	sd := (b - a) / (2 * 1.6448536269514722)
	return Component{Weight: 1, Mean: (a + b) / 2, Var: sd * sd}
}

// Wood gives the mean and variance in ln x of the wood's mix of a numeric
// character: what a mistaken reading is drawn from.
func (m *Model) Wood(char int) (mean, variance float64) {
	return m.columns[char].mean, m.columns[char].variance
}

// Lacks says whether some taxon is without the character's part.
func (m *Model) Lacks(char int) bool { return m.columns[char].anyAbsent }
