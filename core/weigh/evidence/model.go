package evidence

import (
	"errors"
	"fmt"
	"slices"

	"palethicket/core/weigh/portable"
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
	// hit[j*n+t] is p_t(j); slip[j*n+t] is Σ_{i≠j} p_t(i)·c(i,j). Taxa that do
	// not know the character carry the wood's own mix, which makes b(o) of
	// them; taxa that lack the part carry 0 until they are given e·b(o).
	hit, slip         []float64
	hitMean, slipMean []float64 // the same, averaged over the wood's known taxa
	chance            []float64 // sign: p_t, or the wood's mean where not known
	chanceMean        float64
	unknown, absent   []int   // the taxa that do not know it, and that lack it
	knownShare        float64 // total share of the taxa whose value is known
	parts             []part
	normals           []normal
	mean, variance    float64 // numeric: moments in ln x of the wood's mix
}

// part is one normal of one taxon's numeric value. Many taxa share a range, so
// the normals stand apart and each density is worked out once.
type part struct {
	taxon  int
	weight float64
	normal int // index into the column's normals
}

type normal struct{ mean, variance float64 }

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
	*col = column{states: len(ch.States)}
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
			col.unknown = append(col.unknown, t)
		case v.Knowledge == Absent && ch.Kind != Sign:
			col.absent = append(col.absent, t)
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
			at := slices.Index(col.normals, normal{k.Mean, k.Var})
			if at < 0 {
				at = len(col.normals)
				col.normals = append(col.normals, normal{k.Mean, k.Var})
			}
			col.parts = append(col.parts, part{t, k.Weight, at})
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
	col.fillUnknown(n)
	square := 0.0
	for _, p := range col.parts {
		w, k := share[p.taxon]*p.weight/col.knownShare, col.normals[p.normal]
		col.mean += w * k.mean
		square += w * (k.variance + k.mean*k.mean)
	}
	col.variance = square - col.mean*col.mean
}

// fillUnknown gives the taxa that do not know the character the wood's mix.
func (col *column) fillUnknown(n int) {
	for _, t := range col.unknown {
		for j := range col.hitMean {
			col.hit[j*n+t], col.slip[j*n+t] = col.hitMean[j], col.slipMean[j]
		}
		if col.chance != nil {
			col.chance[t] = col.chanceMean
		}
	}
}

// confusion is c(i,j), with equal shares where the character gives no row.
func (ch *Character) confusion(i, j int) float64 {
	if i < len(ch.Confusion) && ch.Confusion[i] != nil {
		return ch.Confusion[i][j]
	}
	return 1 / float64(len(ch.States)-1)
}

// RangeReach is how many standard deviations a range reaches on either side of
// its middle: the 95 % point of the standard normal distribution.
const RangeReach = 1.6448536269514722

// RangeNormal gives the normal in ln x whose middle 90 % runs from lo to hi.
func RangeNormal(lo, hi float64) Component {
	a, b := portable.Log(lo), portable.Log(hi)
	sd := (b - a) / (2 * RangeReach)
	return Component{Weight: 1, Mean: (a + b) / 2, Var: sd * sd}
}

// Wood gives the mean and variance in ln x of the wood's mix of a numeric
// character: what a mistaken reading is drawn from.
func (m *Model) Wood(char int) (mean, variance float64) {
	return m.columns[char].mean, m.columns[char].variance
}

// Lacks says whether some taxon is without the character's part.
func (m *Model) Lacks(char int) bool { return len(m.columns[char].absent) > 0 }
