package evidence

import (
	"fmt"
	"math"
	"math/bits"
)

// Check says what is wrong with a score before it is used, or nil.
func (m *Model) Check(s *Score) error {
	if s.Character < 0 || s.Character >= len(m.chars) {
		return fmt.Errorf("character %d of %d", s.Character, len(m.chars))
	}
	ch := &m.chars[s.Character]
	states := func() error {
		if s.States == 0 || s.States>>len(ch.States) != 0 {
			return fmt.Errorf("%s: states %b, want at least one of %d", ch.ID, s.States, len(ch.States))
		}
		return nil
	}
	if s.Error < 0 || s.Error > 1 {
		return fmt.Errorf("%s: error rate %v, want 0 to 1", ch.ID, s.Error)
	}
	switch ch.Kind {
	case Categorical:
		return states()
	case Numeric:
		if !(s.Value > 0) || math.IsInf(s.Value, 1) || s.Readings < 1 || !(s.Spread >= 0) {
			return fmt.Errorf("%s: value %v of %d readings with spread %v", ch.ID, s.Value, s.Readings, s.Spread)
		}
	case Sign:
		if s.Detect < 0 || s.Detect > 1 || s.False < 0 || s.False > 1 {
			return fmt.Errorf("%s: detection %v, false alarm %v, want 0 to 1", ch.ID, s.Detect, s.False)
		}
	case Tally:
		if s.Nodes == 0 {
			return states()
		}
		if s.Pairs < 0 || s.Nodes < 0 || s.Pairs > s.Nodes {
			return fmt.Errorf("%s: %d pairs among %d nodes", ch.ID, s.Pairs, s.Nodes)
		}
	}
	return nil
}

// Likelihood writes q_t(o) for every taxon, then the unlisted, into q, which
// holds [Model.Hypotheses] numbers. The score must pass [Model.Check].
func (m *Model) Likelihood(q []float64, s *Score) {
	col := &m.columns[s.Character]
	if col.knownShare == 0 { // nobody knows it: no evidence
		for i := range q {
			q[i] = 1
		}
		return
	}
	switch m.chars[s.Character].Kind {
	case Categorical:
		m.states(q, col, s.States, s.Error)
	case Numeric:
		m.measure(q, col, s)
	case Sign:
		m.sign(q, col, s)
	case Tally:
		if s.Nodes == 0 {
			m.states(q, col, s.States, s.Error)
		} else {
			m.tally(q, col, m.chars[s.Character].Shapes, s.Pairs, s.Nodes)
		}
	}
}

// states scores "one of these states" with error rate e.
func (m *Model) states(q []float64, col *column, set uint64, e float64) {
	n := len(m.taxa)
	qs := q[:n]
	b, first := 0.0, true
	for rest := set; rest != 0; rest &= rest - 1 {
		j := bits.TrailingZeros64(rest)
		b += (1-e)*col.hitMean[j] + e*col.slipMean[j]
		hit, slip := col.hit[j*n:j*n+n], col.slip[j*n:j*n+n]
		if first {
			for t := range qs {
				qs[t] = (1-e)*hit[t] + e*slip[t]
			}
			first = false
			continue
		}
		for t := range qs {
			qs[t] += (1-e)*hit[t] + e*slip[t]
		}
	}
	col.standIn(qs, b, e)
	flat := float64(bits.OnesCount64(set)) / float64(col.states)
	q[n] = 0.5*b + 0.5*flat
}

// standIn gives b(o) to the taxa that do not know the character and e·b(o) to
// those that have no such part; both must be 0 in qs before.
func (col *column) standIn(qs []float64, b, e float64) {
	unknown, absent := col.unknown[:len(qs)], col.absent[:len(qs)]
	eb := e * b
	for t := range qs {
		qs[t] += b*unknown[t] + eb*absent[t]
	}
}

func (m *Model) sign(q []float64, col *column, s *Score) {
	// P(seen) = p·d + (1-p)·f = f + p·(d-f), and its complement.
	base, slope := s.False, s.Detect-s.False
	if !s.Seen {
		base, slope = 1-base, -slope
	}
	b := base + slope*col.chanceMean
	qs := q[:len(m.taxa)]
	chance, unknown := col.chance[:len(qs)], col.unknown[:len(qs)]
	gap := b - base // what an unknown taxon has beyond base
	for t := range qs {
		qs[t] = base + slope*chance[t] + gap*unknown[t]
	}
	q[len(qs)] = 0.5*b + 0.25
}

func (m *Model) measure(q []float64, col *column, s *Score) {
	noise := s.Spread * s.Spread / float64(s.Readings) // T², in ln x
	x, e := math.Log(s.Value), s.Error
	stray := e * normalDensity(x, col.mean, col.variance+noise)
	qs := q[:len(m.taxa)]
	clear(qs)
	for i := range col.parts {
		p := &col.parts[i]
		qs[p.taxon] += p.weight * ((1-e)*normalDensity(x, p.mean, p.var_+noise) + stray)
	}
	b := 0.0
	for t, share := range m.share {
		b += share * qs[t]
	}
	b /= col.knownShare
	col.standIn(qs, b, e)
	q[len(qs)] = 0.5*b + 0.5*normalDensity(x, col.mean, 4*col.variance+noise)
}

func (m *Model) tally(q []float64, col *column, shapes []Beta, pairs, nodes int) {
	n := len(m.taxa)
	qs := q[:n]
	clear(qs)
	b := 0.0
	for j, shape := range shapes {
		p := betaBinomial(pairs, nodes, shape)
		b += p * col.hitMean[j]
		hit := col.hit[j*n : j*n+n]
		for t := range qs {
			qs[t] += p * hit[t]
		}
	}
	col.standIn(qs, b, TallyError)
	q[n] = 0.5*b + 0.5/float64(nodes+1)
}

// normalDensity is the normal density at x with the given mean and variance.
func normalDensity(x, mean, variance float64) float64 {
	d := x - mean
	return math.Exp(-0.5*d*d/variance) / math.Sqrt(2*math.Pi*variance)
}

// betaBinomial is the chance of k pairs among n nodes where the chance of a
// pair varies from tree to tree by a beta distribution:
// C(n,k)·B(k+α, n-k+β)/B(α,β). Skellam 1948, J. R. Stat. Soc. B 10:257.
func betaBinomial(k, n int, s Beta) float64 {
	return math.Exp(logChoose(n, k) + logBeta(float64(k)+s.Alpha, float64(n-k)+s.Beta) - logBeta(s.Alpha, s.Beta))
}

func logChoose(n, k int) float64 {
	return lgamma(float64(n+1)) - lgamma(float64(k+1)) - lgamma(float64(n-k+1))
}

func logBeta(a, b float64) float64 { return lgamma(a) + lgamma(b) - lgamma(a+b) }

func lgamma(x float64) float64 {
	v, _ := math.Lgamma(x)
	return v
}
