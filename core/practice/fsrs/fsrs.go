// Package fsrs says when a card is asked again: FSRS-6, the free spaced repetition
// scheduler, whose formulas and default weights are published (Open Spaced Repetition,
// "The Algorithm", FSRS-6, 2025). What is remembered of a card is its stability, the days
// until the chance of recall has fallen to 0.9, and its difficulty, from 1 to 10.
package fsrs

import (
	"errors"
	"fmt"
	"math"
)

// Grade is how an answer went.
type Grade int

// The grades, worst first.
const (
	Again Grade = iota + 1
	Hard
	Good
	Easy
)

// Weights are those of the scheduler: w0 to w20.
type Weights [21]float64

// Default are the weights published for FSRS-6, fitted to many people's reviews.
var Default = Weights{0.212, 1.2931, 2.3065, 8.2956, 6.4133, 0.8334, 3.0194, 0.001, 1.8722, 0.1666, 0.796, 1.4835, 0.0614, 0.2629, 1.6483,
	0.6014, 1.8729, 0.5425, 0.0912, 0.0658, 0.1542}

// Memory is what is remembered of a card. The zero value is of one that was never asked.
type Memory struct {
	Stability  float64 `json:"stability"`  // days
	Difficulty float64 `json:"difficulty"` // 1 to 10
}

// Scheduler works out memories with some weights.
type Scheduler struct {
	W      Weights
	Wanted float64 // chance of recall at which a card is due
}

// New gives a scheduler with the default weights. Wanted recall lies between 0.7 and 0.99.
func New(wanted float64) (*Scheduler, error) {
	if !(wanted >= 0.7 && wanted <= 0.99) {
		return nil, fmt.Errorf("wanted recall is %g, want 0.7 to 0.99", wanted)
	}
	return &Scheduler{Default, wanted}, nil
}

const (
	leastStability = 0.001
	mostStability  = 36500.0
	mostDays       = 36500.0
)

func within(x, lo, hi float64) float64 { return math.Max(lo, math.Min(hi, x)) }

// factor has recall be 0.9 once as many days have gone by as the stability says.
func (s *Scheduler) factor() float64 { return math.Pow(0.9, -1/s.W[20]) - 1 }

// Recall is the chance that a card is known after days.
func (s *Scheduler) Recall(m Memory, days float64) float64 {
	if m.Stability == 0 {
		return 0
	}
	return math.Pow(1+s.factor()*math.Max(0, days)/m.Stability, -s.W[20])
}

// Days is after how many days a card is due: when recall has fallen to what is wanted, at
// least one.
func (s *Scheduler) Days(m Memory) float64 {
	days := m.Stability / s.factor() * (math.Pow(s.Wanted, -1/s.W[20]) - 1)
	return within(math.Round(days), 1, mostDays)
}

// ErrGrade is given for what is no grade.
var ErrGrade = errors.New("a grade is 1 (again) to 4 (easy)")

// Next gives what is remembered after an answer, days after the last; 0 on the same day.
func (s *Scheduler) Next(m Memory, days float64, g Grade) (Memory, error) {
	if g < Again || g > Easy {
		return m, ErrGrade
	}
	if !(days >= 0) {
		return m, fmt.Errorf("%g days since the last answer: want 0 or more", days)
	}
	if m.Stability == 0 {
		return Memory{math.Max(s.W[g-1], 0.1), within(s.firstDifficulty(g), 1, 10)}, nil
	}
	next := Memory{Difficulty: s.difficulty(m.Difficulty, g)}
	recall := s.Recall(m, days)
	switch {
	case days == 0:
		next.Stability = s.sameDay(m.Stability, g)
	case g == Again:
		next.Stability = s.forgotten(m, recall)
	default:
		next.Stability = s.recalled(m, recall, g)
	}
	next.Stability = within(next.Stability, leastStability, mostStability)
	return next, nil
}

func (s *Scheduler) firstDifficulty(g Grade) float64 {
	return s.W[4] - math.Exp(s.W[5]*float64(g-1)) + 1
}

// difficulty moves by the grade, the less the nearer it is to 10, and a little towards that
// of an easy card.
func (s *Scheduler) difficulty(d float64, g Grade) float64 {
	moved := d - s.W[6]*float64(g-3)*(10-d)/9
	return within(s.W[7]*s.firstDifficulty(Easy)+(1-s.W[7])*moved, 1, 10)
}

func (s *Scheduler) recalled(m Memory, recall float64, g Grade) float64 {
	k := math.Exp(s.W[8]) * (11 - m.Difficulty) * math.Pow(m.Stability, -s.W[9]) * (math.Exp((1-recall)*s.W[10]) - 1)
	switch g {
	case Hard:
		k *= s.W[15]
	case Easy:
		k *= s.W[16]
	}
	return m.Stability * (1 + k)
}

func (s *Scheduler) forgotten(m Memory, recall float64) float64 {
	after := s.W[11] * math.Pow(m.Difficulty, -s.W[12]) * (math.Pow(m.Stability+1, s.W[13]) - 1) * math.Exp((1-recall)*s.W[14])
	return math.Min(after, m.Stability/math.Exp(s.W[17]*s.W[18]))
}

// sameDay is what an answer on the same day adds; but for "again" it takes nothing away.
func (s *Scheduler) sameDay(stability float64, g Grade) float64 {
	k := math.Pow(stability, -s.W[19]) * math.Exp(s.W[17]*(float64(g-3)+s.W[18]))
	if g >= Hard {
		k = math.Max(k, 1)
	}
	return stability * k
}
