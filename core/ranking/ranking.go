// Package ranking weighs looks against a pool of taxa: the posterior, which
// looks belong to the tree, how far the evidence carries a name, what speaks
// for one taxon over another and what to check again.
//
// A [Ranker] holds the buffers; a [Standing] is its result.
package ranking

import (
	"cmp"
	"math"
	"slices"

	"palethicket/core/evidence"
)

// CredibleLevel is the posterior that a credible set must reach.
const CredibleLevel = 0.95

// Standing is how the hypotheses of a pool stand after some looks. Slices over
// hypotheses hold one entry per taxon of the model and a last one for the
// unlisted. A Standing is valid until its Ranker ranks again.
type Standing struct {
	Posterior []float64
	Belongs   []float64 // one per look: the chance that it was of this tree
	order     []int
	logs      [][]float64 // ln L(h) by look
	model     *evidence.Model
}

// Ranker ranks trees against one model without allocating once warm. It is for
// one goroutine.
type Ranker struct {
	model   *evidence.Model
	weigher *evidence.Weigher
	own     [][]float64
	st      Standing
	scratch []float64 // a look weighed again with one score left out
	unused  []float64
	logPost []float64 // ln prior + Σ ln L, not normalised
	lnPrior []float64
}

// NewRanker makes a Ranker for the model.
func NewRanker(m *evidence.Model) *Ranker {
	h := m.Hypotheses()
	r := &Ranker{
		model: m, weigher: evidence.NewWeigher(m),
		scratch: make([]float64, h), unused: make([]float64, h),
		logPost: make([]float64, h), lnPrior: make([]float64, h),
		st: Standing{Posterior: make([]float64, h), order: make([]int, h), model: m},
	}
	for i, p := range m.Prior() {
		r.lnPrior[i] = math.Log(p)
	}
	return r
}

// Rank weighs the looks. Their scores must pass [evidence.Model.Check].
func (r *Ranker) Rank(looks []evidence.Look) *Standing {
	r.grow(len(looks))
	copy(r.logPost, r.lnPrior)
	for i := range looks {
		r.weigher.Look(r.st.logs[i], r.own[i], &looks[i], -1)
		add(r.logPost, r.st.logs[i])
	}
	normalise(r.st.Posterior, r.logPost)
	for i := range looks {
		r.st.Belongs[i] = dot(r.st.Posterior, r.own[i])
	}
	for h := range r.st.order {
		r.st.order[h] = h
	}
	post := r.st.Posterior
	slices.SortStableFunc(r.st.order, func(a, b int) int { return cmp.Compare(post[b], post[a]) })
	return &r.st
}

func (r *Ranker) grow(looks int) {
	for len(r.own) < looks {
		r.own = append(r.own, make([]float64, r.model.Hypotheses()))
	}
	for cap(r.st.logs) < looks {
		r.st.logs = append(r.st.logs[:cap(r.st.logs)], nil)
	}
	r.st.logs = r.st.logs[:looks]
	for i := range r.st.logs {
		if r.st.logs[i] == nil {
			r.st.logs[i] = make([]float64, r.model.Hypotheses())
		}
	}
	if cap(r.st.Belongs) < looks {
		r.st.Belongs = make([]float64, looks)
	}
	r.st.Belongs = r.st.Belongs[:looks]
}

// Order gives the hypotheses, best first; ties keep the pool's order.
func (s *Standing) Order() []int { return s.order }

// Leader is the best hypothesis.
func (s *Standing) Leader() int { return s.order[0] }

// Unlisted is the index of the hypothesis that no taxon of the pool fits.
func (s *Standing) Unlisted() int { return len(s.Posterior) - 1 }

// Credible gives the fewest hypotheses, best first, whose posterior together
// reaches the level.
func (s *Standing) Credible(level float64) []int {
	sum := 0.0
	for i, h := range s.order {
		if sum += s.Posterior[h]; sum >= level {
			return s.order[:i+1]
		}
	}
	return s.order
}

// Bits is the weight of evidence, log2(L(a)/L(b)), that one look gives to
// hypothesis a over b. Good 1950, "Probability and the Weighing of Evidence".
func (s *Standing) Bits(look, a, b int) float64 {
	return (s.logs[look][a] - s.logs[look][b]) / math.Ln2
}

// Flip is a score that, left out, gives the tree another leader.
type Flip struct{ Look, Score, Leader int }

// Flips leaves out one score at a time and lists those that change the leader
// of the standing that was ranked last from the same looks.
func (r *Ranker) Flips(looks []evidence.Look) []Flip {
	var flips []Flip
	leader := r.st.Leader()
	for l := range looks {
		for s := range looks[l].Scores {
			r.weigher.Look(r.scratch, r.unused, &looks[l], s)
			if to := r.leaderWith(l); to != leader {
				flips = append(flips, Flip{l, s, to})
			}
		}
	}
	return flips
}

// leaderWith is the leader if look l said what is in scratch instead.
func (r *Ranker) leaderWith(l int) int {
	best, at := math.Inf(-1), 0
	old := r.st.logs[l]
	for h, v := range r.logPost {
		if math.IsInf(old[h], -1) { // a term that cannot be taken out of a sum again
			v = r.logPostWithout(h, l)
		} else {
			v -= old[h]
		}
		if v += r.scratch[h]; v > best {
			best, at = v, h
		}
	}
	return at
}

func (r *Ranker) logPostWithout(h, look int) float64 {
	v := r.lnPrior[h]
	for l := range r.st.logs {
		if l != look {
			v += r.st.logs[l][h]
		}
	}
	return v
}

func add(dst, src []float64) {
	for i, v := range src {
		dst[i] += v
	}
}

func dot(a, b []float64) float64 {
	sum := 0.0
	for i, v := range a {
		sum += v * b[i]
	}
	return sum
}

// normalise turns ln weights into chances that sum to 1.
func normalise(dst, logs []float64) {
	top := slices.Max(logs)
	sum := 0.0
	for i, v := range logs {
		dst[i] = math.Exp(v - top)
		sum += dst[i]
	}
	for i := range dst {
		dst[i] /= sum
	}
}
