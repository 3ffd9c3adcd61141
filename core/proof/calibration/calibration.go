package calibration

import (
	"context"
	"math/rand/v2"
	"runtime"
	"slices"
	"sync"

	"gonum.org/v1/gonum/stat/distuv"

	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/ranking"
	"palethicket/core/weigh/specimen"
)

// Tenths is the number of classes of probability.
const Tenths = 10

// Tenth gathers the posteriors of one tenth of probability.
type Tenth struct {
	N    int     // posteriors in it
	Sum  float64 // of the posteriors
	True int     // that were right
}

// Said is the mean posterior.
func (t Tenth) Said() float64 { return t.Sum / float64(t.N) }

// Came is the share that came true.
func (t Tenth) Came() float64 { return float64(t.True) / float64(t.N) }

// Interval is the binomial interval at the level (0.99, say) within which the
// count that came true should lie if the posteriors are right, as shares.
func (t Tenth) Interval(level float64) (lo, hi float64) {
	b := distuv.Binomial{N: float64(t.N), P: min(t.Said(), 1)}
	tail := (1 - level) / 2
	l, h := quantile(b, tail), quantile(b, 1-tail)
	return l / float64(t.N), h / float64(t.N)
}

// quantile is the least k with P(X ≤ k) ≥ p, by bisection.
func quantile(b distuv.Binomial, p float64) float64 {
	lo, hi := -1.0, b.N
	for hi-lo > 1 {
		mid := float64(int((lo + hi) / 2))
		if b.CDF(mid) >= p {
			hi = mid
		} else {
			lo = mid
		}
	}
	return hi
}

// Report is what came of a run.
type Report struct {
	Specimens  int
	Tenths     [Tenths]Tenth
	First      int // specimens whose own taxon was ranked first
	InCredible int // specimens whose own taxon was in the credible set
}

// Run draws n specimens by share and ranks each from one to four looks at one
// to ten characters that every taxon has. The same seed gives the same report.
// progress, when not nil, is told how many are done; ctx stops the run early.
func Run(ctx context.Context, m *evidence.Model, n int, seed uint64, progress func(done int)) (Report, error) {
	const batch = 500
	batches := make(chan int)
	go func() {
		defer close(batches)
		for b := 0; b*batch < n && ctx.Err() == nil; b++ {
			batches <- b
		}
	}()
	var mu sync.Mutex
	var total Report
	var wg sync.WaitGroup
	for range runtime.GOMAXPROCS(0) {
		wg.Go(func() {
			ranker := ranking.NewRanker(m)
			for b := range batches {
				part := one(m, ranker, min(batch, n-b*batch), rand.NewPCG(seed, uint64(b)))
				mu.Lock()
				total.add(part)
				if progress != nil {
					progress(total.Specimens)
				}
				mu.Unlock()
			}
		})
	}
	wg.Wait()
	return total, ctx.Err()
}

func (r *Report) add(p Report) {
	r.Specimens += p.Specimens
	r.First += p.First
	r.InCredible += p.InCredible
	for i := range r.Tenths {
		r.Tenths[i].N += p.Tenths[i].N
		r.Tenths[i].Sum += p.Tenths[i].Sum
		r.Tenths[i].True += p.Tenths[i].True
	}
}

// one draws and ranks a batch.
func one(m *evidence.Model, ranker *ranking.Ranker, n int, src rand.Source) Report {
	var r Report
	rng := rand.New(src)
	drawer := specimen.NewDrawer(m, src)
	chars := common(m)
	for range n {
		t := drawer.Taxon()
		looks := questions(rng, chars, m)
		for i := range looks {
			drawer.Look(t, &looks[i])
		}
		r.take(ranker.Rank(looks), t)
	}
	return r
}

// take counts every posterior of a standing. Specimens are all of listed taxa,
// so posteriors are taken given that the tree is listed.
func (r *Report) take(st *ranking.Verdict, t int) {
	r.Specimens++
	listed := 1 - st.Posterior[st.Unlisted()]
	for h := range st.Unlisted() {
		p := st.Posterior[h] / listed
		k := &r.Tenths[min(int(p*Tenths), Tenths-1)]
		k.N++
		k.Sum += p
		if h == t {
			k.True++
		}
	}
	best := st.Order()[0]
	if best == st.Unlisted() {
		best = st.Order()[1]
	}
	if best == t {
		r.First++
	}
	if slices.Contains(st.Credible(ranking.CredibleLevel), t) {
		r.InCredible++
	}
}

// common lists the characters that some taxon knows and every taxon has.
func common(m *evidence.Model) []int {
	var chars []int
	for c := range m.Characters() {
		if m.KnownShare(c) > 0 && !m.Lacks(c) {
			chars = append(chars, c)
		}
	}
	return chars
}

// questions makes looks at characters not asked twice, with a certainty,
// means and visibility of their own.
func questions(rng *rand.Rand, chars []int, m *evidence.Model) []evidence.Look {
	order := rng.Perm(len(chars))
	looks := make([]evidence.Look, 1+rng.IntN(4))
	for i := range looks {
		looks[i].Belongs = record.Belonging[record.Froms[rng.IntN(len(record.Froms))].ID]
	}
	for _, k := range order[:min(len(order), 1+rng.IntN(10))] {
		at := &looks[rng.IntN(len(looks))]
		s := evidence.Score{Character: chars[k], Readings: 1 + rng.IntN(3), False: record.FalseAlarm,
			Error:  record.ErrorRate[record.Certainties[rng.IntN(3)].ID],
			Spread: record.Spread[record.Hows[rng.IntN(3)].ID],
			Detect: record.Detection[record.Visibilities[rng.IntN(3)].ID]}
		if m.Characters()[s.Character].Kind == evidence.Tally {
			s.Nodes = 1 + rng.IntN(8)
		}
		at.Scores = append(at.Scores, s)
	}
	return looks
}
