// Package specimen draws trees from the evidence model itself: what a tree of
// a taxon would show when it is looked at. Drawn specimens calibrate the
// ranking and rehearse it; they are not observations.
package specimen

import (
	"math"
	"math/rand/v2"

	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/portable"
)

// Drawer draws specimens from one model. It is for one goroutine.
type Drawer struct {
	m    *evidence.Model
	rng  *rand.Rand
	wood []float64 // cumulative shares
	q    []float64
}

// NewDrawer makes a Drawer; the same model and source draw the same specimens.
func NewDrawer(m *evidence.Model, src rand.Source) *Drawer {
	return &Drawer{m: m, rng: rand.New(src), wood: Cumulative(m.Share()),
		q: make([]float64, m.Hypotheses())}
}

// Taxon draws a taxon by share.
func (d *Drawer) Taxon() int { return Pick(d.wood, d.rng.Float64()) }

// Look draws what a look at a specimen of taxon t would show: with chance
// 1-Belongs the look is of a stranger, a taxon drawn by share. The scores asked
// for are overwritten with the answers.
func (d *Drawer) Look(t int, look *evidence.Look) {
	who := t
	if d.rng.Float64() >= look.Belongs {
		who = d.Taxon()
	}
	for i := range look.Scores {
		d.Score(who, &look.Scores[i])
	}
}

// Score draws the answer that taxon t gives to a score, under the error,
// spread or visibility that the score carries. A taxon whose value is not
// known answers as one of the known taxa, drawn by share; a sign of a part that
// is not there is not shown. Other characters must be ones that some taxon knows
// and none lacks.
func (d *Drawer) Score(t int, s *evidence.Score) {
	for d.m.Taxa()[t].Values[s.Character].Knowledge == evidence.Unknown {
		t = d.Taxon()
	}
	v := &d.m.Taxa()[t].Values[s.Character]
	switch d.m.Characters()[s.Character].Kind {
	case evidence.Numeric:
		s.Value = portable.Exp(d.logValue(s, v))
	case evidence.Sign:
		s.Seen = d.rng.Float64() < v.Chance*s.Detect+(1-v.Chance)*s.False
	case evidence.Tally:
		if s.Nodes > 0 {
			s.Pairs = d.pairs(s.Nodes, v.Dist, d.m.Characters()[s.Character].Shapes)
			return
		}
		s.States = d.state(t, s)
	default:
		s.States = d.state(t, s)
	}
}

// state draws one state by its chance q_t.
func (d *Drawer) state(t int, s *evidence.Score) uint64 {
	u, one := d.rng.Float64(), *s
	states := len(d.m.Characters()[s.Character].States)
	for i := range states {
		one.States = 1 << i
		d.m.Likelihood(d.q, &one)
		if u -= d.q[t]; u < 0 {
			return one.States
		}
	}
	return 1 << (states - 1)
}

// logValue draws ln x: of the taxon, or, when the reading is a mistake, of the
// wood's mix taken as one normal.
func (d *Drawer) logValue(s *evidence.Score, v *evidence.Value) float64 {
	noise := s.Spread * s.Spread / float64(max(s.Readings, 1))
	mean, variance := d.m.Wood(s.Character)
	if d.rng.Float64() >= s.Error {
		u := d.rng.Float64()
		part := v.Normals[len(v.Normals)-1]
		for _, n := range v.Normals {
			if u -= n.Weight; u < 0 {
				part = n
				break
			}
		}
		mean, variance = part.Mean, part.Var
	}
	return mean + math.Sqrt(variance+noise)*d.rng.NormFloat64()
}

// pairs counts the nodes that show a pair: a class, its share of pairs on this
// tree, and then node by node.
func (d *Drawer) pairs(nodes int, classes []float64, shapes []evidence.Beta) int {
	shape := shapes[Pick(Cumulative(classes), d.rng.Float64())]
	a, b := d.gamma(shape.Alpha), d.gamma(shape.Beta)
	count := 0
	for range nodes {
		if d.rng.Float64()*(a+b) < a {
			count++
		}
	}
	return count
}

// gamma draws a gamma variate of unit scale: Marsaglia and Tsang 2000, ACM
// Trans. Math. Softw. 26:363.
func (d *Drawer) gamma(shape float64) float64 {
	if shape < 1 {
		return d.gamma(shape+1) * portable.Exp(portable.Log(d.rng.Float64())/shape)
	}
	k := shape - 1.0/3
	c := 1 / math.Sqrt(9*k)
	for {
		x := d.rng.NormFloat64()
		v := 1 + c*x
		if v <= 0 {
			continue
		}
		v = v * v * v
		if portable.Log(1-d.rng.Float64()) < 0.5*x*x+k-k*v+k*portable.Log(v) {
			return k * v
		}
	}
}

// Cumulative gives the running sums of chances, for [Pick].
func Cumulative(p []float64) []float64 {
	sums, sum := make([]float64, len(p)), 0.0
	for i, v := range p {
		sum += v
		sums[i] = sum
	}
	return sums
}

// Pick finds where u falls among cumulative sums.
func Pick(sums []float64, u float64) int {
	for i, s := range sums {
		if u < s {
			return i
		}
	}
	return len(sums) - 1
}
