package evidence

import (
	"fmt"
	"math"
	"math/bits"

	"palethicket/core/weigh/portable"
)

// Check says what is wrong with a score before it is used, or nil.
func (m *Model) Check(s *Score) error {
	if s.Character < 0 || s.Character >= len(m.chars) {
		return fmt.Errorf("character %d of %d", s.Character, len(m.chars))
	}
	ch := &m.chars[s.Character]
	if !isChance(s.Error) {
		return fmt.Errorf("%s: error rate %v, want 0 to 1", ch.ID, s.Error)
	}
	switch {
	case ch.Kind == Numeric:
		return s.checkValue(ch)
	case ch.Kind == Sign:
		if !isChance(s.Detect) || !isChance(s.False) {
			return fmt.Errorf("%s: detection %v, false alarm %v, want 0 to 1", ch.ID, s.Detect, s.False)
		}
	case ch.Kind == Tally && s.Nodes != 0:
		if s.Pairs < 0 || s.Nodes < 0 || s.Pairs > s.Nodes {
			return fmt.Errorf("%s: %d pairs among %d nodes", ch.ID, s.Pairs, s.Nodes)
		}
	case s.States == 0 || s.States>>len(ch.States) != 0:
		return fmt.Errorf("%s: states %b, want at least one of %d", ch.ID, s.States, len(ch.States))
	}
	return nil
}

func isChance(p float64) bool { return p >= 0 && p <= 1 }

func (s *Score) checkValue(ch *Character) error {
	if !(s.Value > 0) || math.IsInf(s.Value, 1) || s.Readings < 1 || !(s.Spread >= 0) {
		return fmt.Errorf("%s: value %v of %d readings with spread %v", ch.ID, s.Value, s.Readings, s.Spread)
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
		k := col.noisy(s.noise())
		m.measure(q, col, s, &k)
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
	clear(qs)
	for rest := set; rest != 0; rest &= rest - 1 {
		j := bits.TrailingZeros64(rest)
		hit, slip := col.hit[j*n:j*n+n], col.slip[j*n:j*n+n]
		for t := range qs {
			qs[t] += (1-e)*hit[t] + e*slip[t]
		}
	}
	b := col.mix(set, e)
	col.standIn(q, b, e)
	q[n] = 0.5*b + 0.5*float64(bits.OnesCount64(set))/float64(col.states)
}

// mix is b(o) for "one of these states".
func (col *column) mix(set uint64, e float64) (b float64) {
	for rest := set; rest != 0; rest &= rest - 1 {
		j := bits.TrailingZeros64(rest)
		b += (1-e)*col.hitMean[j] + e*col.slipMean[j]
	}
	return b
}

// standIn gives e·b(o) to the taxa that have no such part.
func (col *column) standIn(q []float64, b, e float64) {
	for _, t := range col.absent {
		q[t] = e * b
	}
}

func (m *Model) sign(q []float64, col *column, s *Score) {
	base, slope := lineOf(s)
	qs := q[:len(m.taxa)]
	for t, p := range col.chance[:len(qs)] {
		qs[t] = base + slope*p
	}
	q[len(qs)] = 0.5*(base+slope*col.chanceMean) + 0.25
}

// lineOf writes the chance of what was seen as base + slope·p:
// P(seen) = p·d + (1-p)·f, and its complement.
func lineOf(s *Score) (base, slope float64) {
	if s.Seen {
		return s.False, s.Detect - s.False
	}
	return 1 - s.False, s.False - s.Detect
}

// noise is T² = s²/m, the variance in ln x of the mean of the readings.
func (s *Score) noise() float64 { return s.Spread * s.Spread / float64(s.Readings) }

func (col *column) noisy(noise float64) noisy {
	n := noisy{noise: noise}
	for _, k := range col.normals {
		n.scale = append(n.scale, 1/math.Sqrt(2*math.Pi*(k.variance+noise)))
		n.curve = append(n.curve, -0.5/(k.variance+noise))
	}
	n.density = make([]float64, len(col.normals))
	return n
}

func (m *Model) measure(q []float64, col *column, s *Score, k *noisy) {
	x, e := portable.Log(s.Value), s.Error
	stray := e * normalDensity(x, col.mean, col.variance+k.noise)
	qs := q[:len(m.taxa)]
	clear(qs)
	for i, of := range col.normals {
		d := x - of.mean
		k.density[i] = (1-e)*k.scale[i]*portable.Exp(d*d*k.curve[i]) + stray
	}
	for _, p := range col.parts {
		qs[p.taxon] += p.weight * k.density[p.normal]
	}
	b := 0.0
	for t, share := range m.share {
		b += share * qs[t]
	}
	b /= col.knownShare
	col.standIn(q, b, e)
	for _, t := range col.unknown {
		qs[t] = b
	}
	q[len(qs)] = 0.5*b + 0.5*normalDensity(x, col.mean, 4*col.variance+k.noise)
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
	col.standIn(q, b, TallyError)
	q[n] = 0.5*b + 0.5/float64(nodes+1)
}

// normalDensity is the normal density at x with the given mean and variance.
func normalDensity(x, mean, variance float64) float64 {
	d := x - mean
	return portable.Exp(-0.5*d*d/variance) / math.Sqrt(2*math.Pi*variance)
}

// betaBinomial is the chance of k pairs among n nodes where the chance of a
// pair varies from tree to tree by a beta distribution:
// C(n,k)·B(k+α, n-k+β)/B(α,β). Skellam 1948, J. R. Stat. Soc. B 10:257.
func betaBinomial(k, n int, s Beta) float64 {
	return portable.Exp(logChoose(n, k) + logBeta(float64(k)+s.Alpha, float64(n-k)+s.Beta) - logBeta(s.Alpha, s.Beta))
}

func logChoose(n, k int) float64 {
	return portable.LogGamma(float64(n+1)) - portable.LogGamma(float64(k+1)) - portable.LogGamma(float64(n-k+1))
}

func logBeta(a, b float64) float64 {
	return portable.LogGamma(a) + portable.LogGamma(b) - portable.LogGamma(a+b)
}
