package evidence

import "math/bits"

// Weigher works out what looks say. It keeps its buffers, so that weighing
// does not allocate; one goroutine uses one Weigher.
type Weigher struct {
	m     *Model
	q     []float64
	known [][]noisy // by character
}

// noisy holds what the density of a measurement needs for one noise T²: for
// each normal, 1/sqrt(2π·var) and -1/(2·var), and room for the densities.
type noisy struct {
	noise        float64
	scale, curve []float64
	density      []float64
}

// maxNoisy bounds what is kept for one character; people measure in few ways.
const maxNoisy = 32

// NewWeigher makes a Weigher for the model.
func NewWeigher(m *Model) *Weigher {
	return &Weigher{m: m, q: make([]float64, m.Hypotheses()), known: make([][]noisy, len(m.chars))}
}

// foldEvery is how many scores are multiplied before the product is brought
// back to a common scale, well before a float64 can run out of exponent.
const foldEvery = 12

// Look writes L(t), but for a factor common to all hypotheses, into dst, where
//
//	L(t) = a·Π q_t(o) + (1-a)·S,   S = Σ_s share(s)·Π q_s(o),
//
// and, into own, the share of L(t) that comes from the look being of this tree:
// a·Π q_t(o) / L(t). Both hold [Model.Hypotheses] numbers; not all of dst are 0.
// skip is the index of a score
// to leave out, or -1.
func (w *Weigher) Look(dst, own []float64, look *Look, skip int) {
	w.product(dst, look.Scores, skip)
	stranger := 0.0
	for t, share := range w.m.share {
		stranger += share * dst[t]
	}
	a, stray := look.Belongs, (1-look.Belongs)*stranger
	own = own[:len(dst)]
	for h, p := range dst {
		mine := a * p
		l := mine + stray
		dst[h] = l
		if l > 0 {
			own[h] = mine / l
		} else {
			own[h] = 0 // impossible either way; its posterior is 0
		}
	}
	rescale(dst)
}

// product fills prod with Π q_h(o) over the scores, but for a common factor.
func (w *Weigher) product(prod []float64, scores []Score, skip int) {
	for h := range prod {
		prod[h] = 1
	}
	taken := 0
	for i := range scores {
		if i == skip {
			continue
		}
		w.multiply(prod, &scores[i])
		if taken++; taken%foldEvery == 0 {
			rescale(prod)
		}
	}
}

// multiply takes one score into the product. The common kinds of score go in
// one pass over the taxa, without writing q_t(o) down.
func (w *Weigher) multiply(prod []float64, s *Score) {
	m, col := w.m, &w.m.columns[s.Character]
	n := len(m.taxa)
	kind := m.chars[s.Character].Kind
	switch {
	case col.knownShare == 0: // nobody knows it: no evidence
	case kind == Categorical && s.States&(s.States-1) == 0 && len(col.absent) == 0:
		j, e := bits.TrailingZeros64(s.States), s.Error
		hit, slip := col.hit[j*n:j*n+n], col.slip[j*n:j*n+n]
		for t, p := range prod[:n] {
			prod[t] = p * ((1-e)*hit[t] + e*slip[t])
		}
		prod[n] *= 0.5*col.mix(s.States, e) + 0.5/float64(col.states)
	case kind == Sign:
		base, slope := lineOf(s)
		chance := col.chance[:n]
		for t, p := range prod[:n] {
			prod[t] = p * (base + slope*chance[t])
		}
		prod[n] *= 0.5*(base+slope*col.chanceMean) + 0.25
	default:
		if kind == Numeric {
			m.measure(w.q, col, s, w.noisy(s))
		} else {
			m.Likelihood(w.q, s)
		}
		for h, q := range w.q[:len(prod)] {
			prod[h] *= q
		}
	}
}

// noisy gives the densities' constants for the noise of a score.
func (w *Weigher) noisy(s *Score) *noisy {
	noise := s.noise()
	kept := w.known[s.Character]
	for i := range kept {
		if kept[i].noise == noise {
			return &kept[i]
		}
	}
	if len(kept) == maxNoisy {
		kept = kept[:0]
	}
	kept = append(kept, w.m.columns[s.Character].noisy(noise))
	w.known[s.Character] = kept
	return &kept[len(kept)-1]
}

// rescale brings the largest number to 1 where it has become very small. Where every number is 0, what was
// seen is out of reach of all hypotheses and says nothing between them.
func rescale(p []float64) {
	top := 0.0
	for _, v := range p {
		if v > top { // as max, without its care for NaN
			top = v
		}
	}
	switch {
	case top > 1e-100: // far from the end of a float64's exponent
	case top == 0:
		for h := range p {
			p[h] = 1
		}
	default:
		for h := range p {
			p[h] /= top
		}
	}
}
