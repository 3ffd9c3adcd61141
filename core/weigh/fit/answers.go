package fit

import (
	"math/bits"
	"slices"

	"palethicket/core/weigh/evidence"
)

// asked is what two scores must share for the taxa to answer them alike.
type asked struct {
	character       int
	err, spread     float64
	detect, false   float64
	readings, nodes int
	states          uint64 // only where several were ticked as one answer
}

// ask says what is asked by a score, leaving out what was observed.
func ask(m *evidence.Model, s *evidence.Score) asked {
	a := asked{character: s.Character}
	switch kind := m.Characters()[s.Character].Kind; {
	case m.KnownShare(s.Character) == 0:
	case kind == evidence.Numeric:
		a.err, a.spread, a.readings = s.Error, s.Spread, s.Readings
	case kind == evidence.Sign:
		a.detect, a.false = s.Detect, s.False
	case s.Nodes > 0:
		a.nodes = s.Nodes
	default:
		a.err = s.Error
		if several(s) {
			a.states = s.States
		}
	}
	return a
}

func several(s *evidence.Score) bool { return s.States&(s.States-1) != 0 }

// newAnswers lists the answers the score could have been, as chances under
// every hypothesis.
func newAnswers(m *evidence.Model, s *evidence.Score) *answers {
	a := &answers{}
	ch, set := m.Characters()[s.Character], evidence.Setting{Error: s.Error, Spread: s.Spread,
		Readings: s.Readings, Detect: s.Detect, False: s.False}
	counted := ch.Kind == evidence.Tally && s.Nodes > 0
	var rows [][]float64
	add := func(s evidence.Score) {
		q := make([]float64, m.Hypotheses())
		m.Likelihood(q, &s)
		rows = append(rows, q)
	}
	switch {
	case m.KnownShare(s.Character) == 0: // no evidence, whatever was seen
		rows = [][]float64{slices.Repeat([]float64{1}, m.Hypotheses())}
	case ch.Kind == evidence.Numeric:
		rows, a.edges = m.Outcomes(s.Character, set), m.BinEdges(s.Character, set)
	case ch.Kind == evidence.Sign:
		rows = m.Outcomes(s.Character, set)
	case counted:
		each := *s
		for each.Pairs = 0; each.Pairs <= s.Nodes; each.Pairs++ {
			add(each)
		}
		rows = withNone(m, rows, s.Character, evidence.TallyError)
	default: // the states ticked, as one answer where there are several, and each other state
		if several(s) {
			add(*s)
		}
		for i := range ch.States {
			each := *s
			each.States = 1 << i
			if several(s) && s.States&each.States != 0 {
				continue
			}
			a.place[i] = int8(len(rows))
			add(each)
		}
		rows = withNone(m, rows, s.Character, s.Error)
	}
	a.lay(rows, m.Hypotheses())
	return a
}

// withNone adds the answer that there is no such part.
func withNone(m *evidence.Model, rows [][]float64, char int, e float64) [][]float64 {
	if none := m.NoSuchPart(char, e); none != nil {
		rows = append(rows, none)
	}
	return rows
}

// observe is which of the answers the score was.
func (a *answers) observe(s *evidence.Score) int {
	switch {
	case a.n == 1: // nobody knows the character
		return 0
	case a.edges != nil:
		at, _ := slices.BinarySearch(a.edges, s.Value) // an edge belongs to the bin below it
		return at
	case s.Nodes > 0:
		return s.Pairs
	case s.States != 0 && !several(s):
		return int(a.place[bits.TrailingZeros64(s.States)])
	case s.States != 0: // several states, the first answer
		return 0
	case s.Seen:
		return 0
	}
	return 1
}
