package ranking

import (
	"math"
	"math/bits"
	"slices"

	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/portable"
)

// CredibleLevel is the posterior that a credible set must reach.
const CredibleLevel = 0.95

// Verdict is what some looks make of the hypotheses of a pool. Slices over
// hypotheses hold one entry per taxon of the model and a last one for the
// unlisted. A Verdict is valid until its Ranker ranks again.
type Verdict struct {
	Posterior []float64
	Belongs   []float64 // one per look: the chance that it was of this tree
	order     []int     // empty until asked for
	keys      []uint64
	likely    [][]float64 // L(h) by look, the largest 1
	model     *evidence.Model
	names     map[Rank]*names
}

// Ranker ranks trees against one model without allocating once warm. It is for
// one goroutine.
type Ranker struct {
	model   *evidence.Model
	weigher *evidence.Weigher
	own     [][]float64
	st      Verdict
	scratch []float64 // a look weighed again with one score left out
	unused  []float64
	others  []float64 // prior and all looks but one
	ones    []float64
}

// NewRanker makes a Ranker for the model.
func NewRanker(m *evidence.Model) *Ranker {
	h := m.Hypotheses()
	r := &Ranker{
		model: m, weigher: evidence.NewWeigher(m),
		ones: slices.Repeat([]float64{1}, h), scratch: make([]float64, h), unused: make([]float64, h), others: make([]float64, h),
		st: Verdict{Posterior: make([]float64, h), order: make([]int, 0, h), keys: make([]uint64, 0, h), model: m, names: namesOf(m)},
	}
	return r
}

// Rank weighs the looks. Their scores must pass [evidence.Model.Check].
func (r *Ranker) Rank(looks []evidence.Look) *Verdict { return r.RankChanged(looks, -1) }

// RankChanged is Rank where all looks but one are those that were ranked last; below 0,
// any may have changed.
func (r *Ranker) RankChanged(looks []evidence.Look, changed int) *Verdict {
	r.grow(len(looks))
	post := r.st.Posterior
	copy(post, r.model.Prior())
	for i := range looks {
		if changed < 0 || i == changed {
			r.weigher.Look(r.st.likely[i], r.own[i], &looks[i], -1)
		}
		if multiply(post, r.st.likely[i]) < outOfRange {
			normalise(post)
		}
	}
	normalise(post)
	for i := range looks {
		r.st.Belongs[i] = dot(post, r.own[i])
	}
	r.st.order = r.st.order[:0]
	return &r.st
}

func (r *Ranker) grow(looks int) {
	for len(r.own) < looks {
		r.own = append(r.own, make([]float64, r.model.Hypotheses()))
	}
	for cap(r.st.likely) < looks {
		r.st.likely = append(r.st.likely[:cap(r.st.likely)], nil)
	}
	r.st.likely = r.st.likely[:looks]
	for i := range r.st.likely {
		if r.st.likely[i] == nil {
			r.st.likely[i] = make([]float64, r.model.Hypotheses())
		}
	}
	if cap(r.st.Belongs) < looks {
		r.st.Belongs = make([]float64, looks)
	}
	r.st.Belongs = r.st.Belongs[:looks]
}

// Order gives the hypotheses, best first. They are sorted when first asked for.
//
// Each is written as one number, the bits of its posterior with the index in
// the lowest of them: posteriors are not negative, so they order as their bits
// do. Those that agree in all but the last bits count as ties and keep the
// pool's order.
func (v *Verdict) Order() []int {
	if len(v.order) > 0 {
		return v.order
	}
	low := v.lowBits()
	v.keys = v.keys[:0]
	for h, p := range v.Posterior {
		v.keys = append(v.keys, ^(math.Float64bits(p)|low)|uint64(h))
	}
	slices.Sort(v.keys)
	for _, k := range v.keys {
		v.order = append(v.order, int(k&low))
	}
	return v.order
}

// lowBits masks as many bits as an index needs.
func (v *Verdict) lowBits() uint64 { return 1<<bits.Len(uint(len(v.Posterior))) - 1 }

// Leader is the best hypothesis.
func (v *Verdict) Leader() int {
	if len(v.order) > 0 {
		return v.order[0]
	}
	best, most, low := 0, uint64(0), v.lowBits()
	for h, p := range v.Posterior {
		if b := math.Float64bits(p) | low; b > most {
			best, most = h, b
		}
	}
	return best
}

// Unlisted is the index of the hypothesis that no taxon of the pool fits.
func (v *Verdict) Unlisted() int { return len(v.Posterior) - 1 }

// Credible gives the fewest hypotheses, best first, whose posterior together
// reaches the level.
func (v *Verdict) Credible(level float64) []int {
	sum := 0.0
	for i, h := range v.Order() {
		if sum += v.Posterior[h]; sum >= level {
			return v.order[:i+1]
		}
	}
	return v.order
}

// Bits is the weight of evidence, log2(L(a)/L(b)), that one look gives to
// hypothesis a over b. Good 1950, "Probability and the Weighing of Evidence".
func (v *Verdict) Bits(look, a, b int) float64 {
	return BitsOf(v.likely[look][a], v.likely[look][b])
}

// BitsOf is log2(a/b) of two chances.
func BitsOf(a, b float64) float64 { return portable.Log2(a) - portable.Log2(b) }

// Ordered gives the verdict with an order of its own, which may leave
// hypotheses out. It is for thought experiments over a few hypotheses.
func (v *Verdict) Ordered(order []int) *Verdict {
	v.order = order
	return v
}

// ScoreBits is what one score adds to its look's weight for a over b: the bits
// of the look less those of the look without it. The looks are those that were
// ranked last.
func (r *Ranker) ScoreBits(looks []evidence.Look, look, score, a, b int) float64 {
	r.weigher.Look(r.scratch, r.unused, &looks[look], score)
	return r.st.Bits(look, a, b) - BitsOf(r.scratch[a], r.scratch[b])
}

// Flip is a score that, left out, gives the tree another leader.
type Flip struct{ Look, Score, Leader int }

// Flips leaves out one score at a time and lists those that change the leader
// of the verdict that was ranked last from the same looks.
//
// What a look says without a score follows from what it says with it: its
// product, which is own·L/a, divided by q(o). Leaving a score out lifts no
// hypothesis against another by more than the largest q(o) over the smallest,
// so most scores need not be tried.
func (r *Ranker) Flips(looks []evidence.Look) []Flip {
	var flips []Flip
	leader := r.st.Leader()
	lead, second := r.st.Posterior[leader], r.st.second(leader)
	for l := range looks {
		weighed := false
		for s := range looks[l].Scores {
			row, least, most := r.weigher.Row(r.unused, &looks[l].Scores[s])
			if second*most < lead*least {
				continue
			}
			if !weighed {
				r.weighOthers(l)
				weighed = true
			}
			if least > 0 && looks[l].Belongs > 0 {
				r.divide(l, row, looks[l].Belongs)
			} else {
				r.weigher.Look(r.scratch, r.unused, &looks[l], s)
			}
			if to := mostLikely(r.others, r.scratch); to != leader {
				flips = append(flips, Flip{l, s, to})
			}
		}
	}
	return flips
}

// second is the largest posterior but that of the leader.
func (v *Verdict) second(leader int) float64 {
	best := 0.0
	for h, p := range v.Posterior {
		if p > best && h != leader {
			best = p
		}
	}
	return best
}

// divide fills scratch with what a look says without the score whose q(o) is
// row; a is its chance of belonging.
func (r *Ranker) divide(look int, row []float64, a float64) {
	x := r.scratch[:len(row)]
	own, likely := r.own[look][:len(row)], r.st.likely[look][:len(row)]
	for h, q := range row {
		x[h] = own[h] * likely[h] / (a * q)
	}
	stray := (1 - a) * evidence.Stranger(r.model.Share(), x, r.ones)
	for h, p := range x {
		x[h] = a*p + stray
	}
}

// weighOthers fills others with prior times the likelihoods of all looks but
// one.
func (r *Ranker) weighOthers(look int) {
	copy(r.others, r.model.Prior())
	for i, likely := range r.st.likely {
		if i != look && multiply(r.others, likely) < outOfRange {
			normalise(r.others)
		}
	}
}

// mostLikely is where the product of a and b is largest.
func mostLikely(a, b []float64) int {
	best, at := -1.0, 0
	b = b[:len(a)]
	for h, v := range a {
		if v *= b[h]; v > best {
			best, at = v, h
		}
	}
	return at
}

// outOfRange is small enough to bring a product back to a sum of 1, well
// before a float64 runs out of exponent.
const outOfRange = 1e-100

// multiply takes b into a and gives the sum of what came out. Four sums run
// side by side, as each addition would wait for the one before it.
func multiply(a, b []float64) float64 {
	var s0, s1, s2, s3 float64
	b = b[:len(a)]
	i := 0
	for ; i+4 <= len(a); i += 4 {
		x, y := a[i:i+4:i+4], b[i:i+4:i+4]
		x[0] *= y[0]
		x[1] *= y[1]
		x[2] *= y[2]
		x[3] *= y[3]
		s0 += x[0]
		s1 += x[1]
		s2 += x[2]
		s3 += x[3]
	}
	for ; i < len(a); i++ {
		a[i] *= b[i]
		s0 += a[i]
	}
	return s0 + s1 + s2 + s3
}

// normalise brings chances to a sum of 1. Where nothing is possible at all they
// stay as they are.
func normalise(p []float64) {
	sum := 0.0
	for _, v := range p {
		sum += v
	}
	if sum == 0 {
		return
	}
	up := 1 / sum
	for i := range p {
		p[i] *= up
	}
}

func dot(a, b []float64) float64 {
	sum := 0.0
	for i, v := range a {
		sum += v * b[i]
	}
	return sum
}
