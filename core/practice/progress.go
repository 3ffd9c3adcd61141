package practice

import (
	"cmp"
	"math"
	"slices"
	"time"

	"palethicket/core/practice/fsrs"
)

// Review is one answer that was given.
type Review struct {
	Card     string
	At       time.Time
	Verdict  string
	Sure     string
	Seconds  float64
	TakenFor string // the name that was said, where it was another tree's
	True     bool   // the name said was the individual's own, seen or not
}

// quick is how many seconds a name takes that is known well (common practice).
const quick = 10

// Grade is how well an answer went, for when the card is asked again.
func (r *Review) Grade() fsrs.Grade {
	switch {
	case r.Verdict == NotFar || r.Verdict == TooFar && r.True || r.Verdict == Right && r.Sure == "guess":
		return fsrs.Hard
	case r.Verdict == Right && r.Sure == "sure" && r.Seconds <= quick:
		return fsrs.Easy
	case r.Verdict == Right:
		return fsrs.Good
	}
	return fsrs.Again
}

// Standing is how one card stands.
type Standing struct {
	fsrs.Memory
	Reviews int
	First   time.Time
	Last    time.Time
	Due     time.Time
	Run     int // right answers in a row
}

// days counts whole days between two times, as people do where the later was.
func days(from, to time.Time) float64 {
	return math.Max(0, math.Round(midnight(to, 0).Sub(midnight(from.In(to.Location()), 0)).Hours()/24))
}

// midnight is when the day of a time begins, or one some days later.
func midnight(t time.Time, later int) time.Time {
	return time.Date(t.Year(), t.Month(), t.Day()+later, 0, 0, 0, 0, t.Location())
}

// Progress works out how every card stands after the reviews, in the order of their times.
func Progress(s *fsrs.Scheduler, reviews []Review) (map[string]Standing, error) {
	reviews = slices.Clone(reviews)
	slices.SortStableFunc(reviews, func(a, b Review) int { return a.At.Compare(b.At) })
	out := map[string]Standing{}
	for i := range reviews {
		r := &reviews[i]
		st := out[r.Card]
		next, err := s.Next(st.Memory, days(cmp.Or(st.Last, r.At), r.At), r.Grade())
		if err != nil {
			return nil, err
		}
		st.Memory, st.First, st.Last, st.Reviews = next, cmp.Or(st.First, r.At), r.At, st.Reviews+1
		st.Due = midnight(r.At, int(s.Days(next)))
		st.Run++
		if r.Grade() == fsrs.Again {
			st.Due, st.Run = r.At, 0 // it comes back in this session
		}
		out[r.Card] = st
	}
	return out, nil
}

// Oddness is how odd the individuals are that somebody is shown of a card: usual ones
// first, odd ones as it is known better.
func (st Standing) Oddness() float64 {
	return math.Min(0.9, math.Log1p(st.Stability)/5)
}

// Counted is how a number of answers went.
type Counted struct {
	N, Right int
}

// Figures are what somebody's reviews say of them.
type Figures struct {
	Reviews  int
	Brier    float64            // mean, 0 best; NaN without answers
	BySure   map[string]Counted // is "sure" sure?
	ByTaxon  map[string]Counted
	ByWord   map[[2]string]Counted // by character and state
	TakenFor map[[2]string]int     // taxon and what it was taken for
}

// mistaken is the tree of a card that was taken for another; "" where none was. Of a pair it is the one that it was not taken for.
func (c Card) mistaken(takenFor string) string {
	switch {
	case takenFor == "" || c.Kind == Word:
		return ""
	case c.Kind == Pair && takenFor == c.Taxon:
		return c.Other
	case takenFor == c.Taxon:
		return ""
	}
	return c.Taxon
}

// FiguresOf adds reviews up.
func FiguresOf(reviews []Review) *Figures {
	f := &Figures{BySure: map[string]Counted{}, ByTaxon: map[string]Counted{}, ByWord: map[[2]string]Counted{}, TakenFor: map[[2]string]int{}}
	sum, n := 0.0, 0
	for i := range reviews {
		r := &reviews[i]
		c, err := ParseCard(r.Card)
		if err != nil {
			continue // of an older flora
		}
		f.Reviews++
		right := r.Verdict == Right || r.Verdict == NotFar
		count := func(of map[string]Counted, key string) {
			k := of[key]
			k.N++
			if right {
				k.Right++
			}
			of[key] = k
		}
		if c.Kind == Word {
			k := f.ByWord[[2]string{c.Character, c.State}]
			k.N++
			if right {
				k.Right++
			}
			f.ByWord[[2]string{c.Character, c.State}] = k
		} else {
			count(f.ByTaxon, c.Taxon)
		}
		if chance, ok := Sureness[r.Sure]; ok && r.Verdict != NoIdea {
			count(f.BySure, r.Sure)
			outcome := 0.0
			if right {
				outcome = 1
			}
			sum += (chance - outcome) * (chance - outcome)
			n++
		}
		if of := c.mistaken(r.TakenFor); of != "" {
			f.TakenFor[[2]string{of, r.TakenFor}]++
		}
	}
	f.Brier = sum / float64(n)
	return f
}
