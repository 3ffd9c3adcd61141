package evidence

import (
	"math/bits"
	"slices"
)

// Weigher works out what looks say. It keeps its buffers, so that weighing
// does not allocate; one goroutine uses one Weigher.
type Weigher struct {
	m     *Model
	q     []float64
	ones  []float64
	known [][]noisy // by character

	answers [][]answered // by character
	bounds  [][]bounds   // of each of the answers
	last    [lastMeasured]measured
	next    int // which of last is written over next
}

// answered is q_h(o) of one answer under one certainty or visibility.
type answered struct {
	answer int // a state; or 0 seen and 1 not seen
	x, y   float64
	q      []float64
}

// bounds are the least and the most of a row.
type bounds struct{ least, most float64 }

func boundsOf(q []float64) bounds {
	b := bounds{q[0], q[0]}
	for _, v := range q { // as min and max, without their care for NaN
		if v < b.least {
			b.least = v
		}
		if v > b.most {
			b.most = v
		}
	}
	return b
}

// maxAnswers bounds what is remembered of one character: its states under a
// few certainties.
const maxAnswers = 4 * MaxStates

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
	return &Weigher{
		m:       m,
		q:       make([]float64, m.Hypotheses()),
		ones:    slices.Repeat([]float64{1}, m.Hypotheses()),
		known:   make([][]noisy, len(m.chars)),
		answers: make([][]answered, len(m.chars)),
		bounds:  make([][]bounds, len(m.chars)),
	}
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
	a := look.Belongs
	stray := (1 - a) * Stranger(w.m.share, dst, w.ones)
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

// Stranger is the wood's mean of a product, Σ_s share(s)·a(s)·b(s): what a
// stranger would show. Four sums run side by side, as each addition would wait
// for the one before it.
func Stranger(share, a, b []float64) float64 {
	var s0, s1, s2, s3 float64
	a, b = a[:len(share)], b[:len(share)]
	i := 0
	for ; i+4 <= len(share); i += 4 {
		w, x, y := share[i:i+4:i+4], a[i:i+4:i+4], b[i:i+4:i+4]
		s0 += w[0] * x[0] * y[0]
		s1 += w[1] * x[1] * y[1]
		s2 += w[2] * x[2] * y[2]
		s3 += w[3] * x[3] * y[3]
	}
	for ; i < len(share); i++ {
		s0 += share[i] * a[i] * b[i]
	}
	return s0 + s1 + s2 + s3
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

// multiply takes one score into the product.
func (w *Weigher) multiply(prod []float64, s *Score) {
	q := w.row(w.q, s)
	prod = prod[:len(q)]
	for h, p := range q {
		prod[h] *= p
	}
}

// Row gives q_h(o) of a score for every hypothesis, and the least and the most
// of it. It is buf, which holds [Model.Hypotheses] numbers, or is kept and must
// not be changed.
func (w *Weigher) Row(buf []float64, s *Score) (q []float64, least, most float64) {
	if answer, x, y, ok := w.single(s); ok {
		i := w.remember(s, answer, x, y)
		b := w.bounds[s.Character][i]
		return w.answers[s.Character][i].q, b.least, b.most
	}
	q = w.row(buf, s)
	b := boundsOf(q)
	return q, b.least, b.most
}

// row gives q_h(o) of a score for every hypothesis, in buf or kept.
func (w *Weigher) row(buf []float64, s *Score) []float64 {
	if answer, x, y, ok := w.single(s); ok {
		return w.answers[s.Character][w.remember(s, answer, x, y)].q
	}
	switch m := w.m; {
	case m.columns[s.Character].knownShare == 0: // nobody knows it: no evidence
		return w.ones
	case m.chars[s.Character].Kind == Numeric:
		return w.measured(s)
	default:
		m.Likelihood(buf, s)
	}
	return buf
}

// measured is q_h(o) of one measurement. The last few are kept: a tree's scores
// are gone through again to see which of them the leader hangs on.
type measured struct {
	character, readings int
	value, spread, err  float64
	q                   []float64
}

// lastMeasured is how many measurements are kept: more than a tree has.
const lastMeasured = 32

func (w *Weigher) measured(s *Score) []float64 {
	for i := range w.last {
		if k := &w.last[i]; k.value == s.Value && k.character == s.Character && k.readings == s.Readings && k.spread == s.Spread &&
			k.err == s.Error {
			return k.q
		}
	}
	k := &w.last[w.next]
	w.next = (w.next + 1) % lastMeasured
	if k.q == nil {
		k.q = make([]float64, w.m.Hypotheses())
	}
	k.character, k.readings, k.value, k.spread, k.err = s.Character, s.Readings, s.Value, s.Spread, s.Error
	w.m.measure(k.q, &w.m.columns[s.Character], s, w.noisy(s))
	return k.q
}

// single says whether a score is one of the few answers that are remembered:
// which, and under which certainty or visibility.
func (w *Weigher) single(s *Score) (answer int, x, y float64, ok bool) {
	if w.m.columns[s.Character].knownShare == 0 {
		return 0, 0, 0, false
	}
	switch kind := w.m.chars[s.Character].Kind; {
	case kind == Categorical && s.States&(s.States-1) == 0:
		return bits.TrailingZeros64(s.States), s.Error, 0, true
	case kind == Sign && s.Seen:
		return 0, s.Detect, s.False, true
	case kind == Sign:
		return 1, s.Detect, s.False, true
	}
	return 0, 0, 0, false
}

// remember gives the place of a single answer among those of its character; it
// is worked out once for each of the few certainties or visibilities that
// people use.
func (w *Weigher) remember(s *Score, answer int, x, y float64) int {
	kept := w.answers[s.Character]
	for i := range kept {
		if k := &kept[i]; k.answer == answer && k.x == x && k.y == y {
			return i
		}
	}
	if len(kept) == maxAnswers {
		kept, w.bounds[s.Character] = kept[:0], w.bounds[s.Character][:0]
	}
	q := make([]float64, w.m.Hypotheses())
	w.m.Likelihood(q, s)
	w.answers[s.Character] = append(kept, answered{answer, x, y, q})
	w.bounds[s.Character] = append(w.bounds[s.Character], boundsOf(q))
	return len(kept)
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
