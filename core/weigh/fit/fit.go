package fit

import (
	"math"
	"math/rand/v2"
	"sync"

	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/portable"
	"palethicket/core/weigh/specimen"
)

// Draws says how many specimens are drawn.
type Draws struct {
	Most int
	// Enough stops the drawing once so many specimens were as odd as the tree
	// or odder: the tail share is then known to one part in the root of Enough,
	// and most trees need a tenth of the specimens. 0 draws them all. Besag and
	// Clifford 1991, "Sequential Monte Carlo p-values", Biometrika 78:301.
	Enough int
}

// Usual is for a tree that someone waits for.
var Usual = Draws{Most: 1000, Enough: 20}

// Quick is for files of many trees.
var Quick = Draws{Most: 500, Enough: 10}

// Judge judges the fit of trees to one model. It keeps what the taxa answer to
// each kind of score, and is safe for use by several goroutines.
type Judge struct {
	m    *evidence.Model
	wood []float64
	mu   sync.RWMutex
	kept map[asked]*answers
}

// NewJudge makes a Judge for the model.
func NewJudge(m *evidence.Model) *Judge {
	return &Judge{m: m, wood: specimen.Cumulative(m.Share()), kept: map[asked]*answers{}}
}

// question is one score of the tree: what the taxa could have answered to it,
// and what was observed.
type question struct {
	*answers
	logs     []float64 // ln q_t of each answer for the taxon that is judged
	observed int
}

// look is the questions asked of one thing.
type look struct {
	belongs     float64
	first, last int // indices of its questions
}

// Tail is the share of drawn specimens of taxon t, the tree itself counted
// among them, whose scores are as surprising as the tree's or more: near 0
// where the tree does not fit the taxon. It lies in (0, 1].
func (j *Judge) Tail(looks []evidence.Look, t int, draws Draws) float64 {
	asked := make([]look, 0, len(looks))
	scores := 0
	for i := range looks {
		scores += len(looks[i].Scores)
	}
	questions := make([]question, 0, scores)
	observed := 0.0
	for i := range looks {
		l := look{belongs: looks[i].Belongs, first: len(questions)}
		for k := range looks[i].Scores {
			q := j.ask(&looks[i].Scores[k], t)
			observed += q.logs[q.observed]
			questions = append(questions, q)
		}
		l.last = len(questions)
		asked = append(asked, l)
	}
	rng := rand.NewPCG(uint64(len(asked)), uint64(t)) // the same tree, the same answer
	worse := 0
	for n := range draws.Most {
		if j.draw(rng, asked, questions, t) > observed+1e-9 {
			continue
		}
		if worse++; worse == draws.Enough {
			return float64(worse) / float64(n+1)
		}
	}
	return float64(worse+1) / float64(draws.Most+1)
}

// draw is the sum of the log scores of one specimen of taxon t.
func (j *Judge) draw(rng *rand.PCG, looks []look, questions []question, t int) float64 {
	sum := 0.0
	for _, l := range looks {
		who := t
		if unit(rng.Uint64()) >= l.belongs {
			who = specimen.Pick(j.wood, unit(rng.Uint64()))
		}
		var bits uint64
		for i := l.first; i < l.last; i++ {
			if bits >>= 32; (i-l.first)%2 == 0 { // half of 64 random bits are enough for a pick
				bits = rng.Uint64()
			}
			q := &questions[i]
			sum += q.logs[q.pick(who, uint32(bits))]
		}
	}
	return sum
}

// unit makes a number from 0 to 1 of random bits.
func unit(bits uint64) float64 { return float64(bits>>11) / (1 << 53) }

// leastChance keeps an answer that cannot happen from outweighing every other
// score without end.
const leastChance = 1e-6

// mostKept bounds what is remembered; people score in few ways.
const mostKept = 4096

func (j *Judge) ask(s *evidence.Score, t int) question {
	key := ask(j.m, s)
	j.mu.RLock()
	a := j.kept[key]
	j.mu.RUnlock()
	if a == nil {
		a = newAnswers(j.m, s)
		j.mu.Lock()
		if len(j.kept) >= mostKept {
			clear(j.kept)
		}
		j.kept[key] = a
		j.mu.Unlock()
	}
	return question{answers: a, logs: a.of(t), observed: a.observe(s)}
}

// answers are what every taxon answers to one kind of score.
type answers struct {
	n     int
	sums  []uint32  // running sums of q_h over the answers in parts of 2³², hypothesis by hypothesis
	logs  []float64 // ln q_h of each answer, laid out alike
	guide []uint8   // by hypothesis: the answer at which each part of the unit interval begins
	edges []float64 // numeric: upper edges of the bins
	place [evidence.MaxStates]int8
}

// guides is into how many parts the unit interval is cut, so that a pick starts
// near its end.
const guides = 32

// pick is the answer of hypothesis h at u parts in 2³² of its running sums.
func (a *answers) pick(h int, u uint32) int {
	i := int(a.guide[h*guides+int(u/(1<<32/guides))])
	for sums := a.sums[h*a.n : (h+1)*a.n]; i < len(sums) && u > sums[i]; {
		i++
	}
	return min(i, a.n-1)
}

// lay fills the sums and logs from rows by answer.
func (a *answers) lay(rows [][]float64, hypotheses int) {
	a.n = len(rows)
	a.sums, a.logs = make([]uint32, 0, a.n*hypotheses), make([]float64, 0, a.n*hypotheses)
	for h := range hypotheses {
		total := 0.0
		for _, row := range rows {
			total += row[h]
			a.sums = append(a.sums, uint32(min(total, 1)*math.MaxUint32))
			a.logs = append(a.logs, portable.Log(max(row[h], leastChance)))
		}
		for g, i := 0, 0; g < guides; g++ {
			for i < a.n-1 && uint32(g)*(1<<32/guides) > a.sums[h*a.n+i] {
				i++
			}
			a.guide = append(a.guide, uint8(i))
		}
	}
}
