// Package fit says how surprising the looks at a tree are if the leading taxon
// is right: the sum of the log scores, Σ ln q_t(o), set against the same sum
// over specimens drawn from that taxon. A look of a drawn specimen is a
// stranger's with the chance that the look has; what is asked of a specimen is
// what was scored on the tree. The tail share is a Monte Carlo p-value, Barnard
// 1963, J. R. Stat. Soc. B 25:294.
package fit

import (
	"math"
	"math/bits"
	"math/rand/v2"
	"slices"

	"palethicket/core/evidence"
	"palethicket/core/specimen"
)

// Draws is the usual number of specimens.
const Draws = 1000

// Tail is the share of drawn specimens of taxon t, the tree itself counted
// among them, whose scores are as surprising as the tree's or more: near 0
// where the tree does not fit the taxon. It lies in (0, 1].
func Tail(m *evidence.Model, looks []evidence.Look, t, draws int) float64 {
	var asked []look
	observed := 0.0
	for i := range looks {
		l := look{belongs: looks[i].Belongs}
		for j := range looks[i].Scores {
			q := ask(m, &looks[i].Scores[j], t)
			observed += q.surprise[q.observed]
			l.questions = append(l.questions, q)
		}
		asked = append(asked, l)
	}
	rng := rand.New(rand.NewPCG(uint64(len(asked)), uint64(t))) // the same tree, the same answer
	wood := specimen.Cumulative(m.Share())
	worse := 1
	for range draws {
		sum := 0.0
		for i := range asked {
			questions := asked[i].questions
			if rng.Float64() < asked[i].belongs {
				for q := range questions {
					sum += questions[q].own(rng.Float64())
				}
				continue
			}
			who := specimen.Pick(wood, rng.Float64())
			for q := range questions {
				sum += questions[q].stray(who, rng.Float64())
			}
		}
		if sum <= observed+1e-9 {
			worse++
		}
	}
	return float64(worse) / float64(draws+1)
}

type look struct {
	belongs   float64
	questions []question
}

// question is a score with all the answers it could have been.
type question struct {
	rows     [][]float64 // q_h by answer and hypothesis
	sums     []float64   // running sums of q_t over the answers
	surprise []float64   // ln q_t of each answer
	observed int
}

// own draws ln q_t of an answer of the taxon itself.
func (q *question) own(u float64) float64 {
	return q.surprise[specimen.Pick(q.sums, u)]
}

// stray draws ln q_t of an answer of a stranger, taxon who.
func (q *question) stray(who int, u float64) float64 {
	for o, row := range q.rows {
		if u -= row[who]; u < 0 {
			return q.surprise[o]
		}
	}
	return q.surprise[len(q.surprise)-1]
}

// leastChance keeps an answer that cannot happen from outweighing every other
// score without end.
const leastChance = 1e-6

func ask(m *evidence.Model, s *evidence.Score, t int) question {
	q := question{}
	q.rows, q.observed = answers(m, s)
	total := 0.0
	for _, row := range q.rows {
		total += row[t]
		q.sums = append(q.sums, total)
		q.surprise = append(q.surprise, math.Log(max(row[t], leastChance)))
	}
	return q
}

// answers lists the answers the score could have been, as chances under every
// hypothesis, and which of them it was.
func answers(m *evidence.Model, s *evidence.Score) (rows [][]float64, observed int) {
	set := evidence.Setting{Error: s.Error, Spread: s.Spread, Readings: s.Readings, Detect: s.Detect, False: s.False}
	ch := m.Characters()[s.Character]
	if m.KnownShare(s.Character) == 0 { // no evidence, whatever was seen
		return [][]float64{slices.Repeat([]float64{1}, m.Hypotheses())}, 0
	}
	add := func(s evidence.Score) {
		q := make([]float64, m.Hypotheses())
		m.Likelihood(q, &s)
		rows = append(rows, q)
	}
	counted := ch.Kind == evidence.Tally && s.Nodes > 0
	switch {
	case ch.Kind == evidence.Numeric:
		rows = m.Outcomes(s.Character, set)
		for _, edge := range m.BinEdges(s.Character, set) {
			if s.Value > edge {
				observed++
			}
		}
		return rows, observed
	case counted:
		each := *s
		for each.Pairs = 0; each.Pairs <= s.Nodes; each.Pairs++ {
			add(each)
		}
		observed = s.Pairs
	case ch.Kind == evidence.Sign:
		for _, seen := range []bool{true, false} {
			each := *s
			each.Seen = seen
			add(each)
		}
		if !s.Seen {
			observed = 1
		}
	default: // the states ticked, as one answer, and each other state
		add(*s)
		for rest := ^s.States & (1<<len(ch.States) - 1); rest != 0; rest &= rest - 1 {
			each := *s
			each.States = 1 << bits.TrailingZeros64(rest)
			add(each)
		}
	}
	if e := s.Error; ch.Kind != evidence.Sign {
		if counted {
			e = evidence.TallyError
		}
		if none := m.NoSuchPart(s.Character, e); none != nil {
			rows = append(rows, none)
		}
	}
	return rows, observed
}
