package practice

import (
	"cmp"
	"hash/fnv"
	"math"
	"math/rand/v2"
	"slices"
	"time"

	"palethicket/core/practice/fsrs"
)

// Session is how somebody wants to be asked.
type Session struct {
	By       string // whose it is: new cards come to each in another order
	New      int    // how many cards may be begun in a day
	TillSure bool   // cards asked today come back until each was right twice running
}

const (
	twice    = 2  // how often running a card is to be right in a session till sure
	rest     = 2  // how many others come before a card is asked again, while there are so many
	choice   = 8  // among how many of those known least, or more that are known no better, the next is drawn
	shuffled = 24 // how many places a new card may come later than it stands in the deck

	alike = 0.05 // how much more recall is no better
)

// Next picks the card to ask now: one of those that are due and known least, else a new one; none
// where nothing is. asked are the cards asked before, in their order. Which one of a few is drawn by
// chance, and where too few are due others known today come between: the order of the cards is to
// say nothing of what they show. Asked again without an answer, it picks the same.
func Next(s *fsrs.Scheduler, deck []Card, standing map[string]Standing, asked []string, now time.Time, session Session) (Card, bool) {
	due, known, fresh, order := sorted(s, deck, standing, now, session)
	rested := func(c Card) bool { return !slices.Contains(asked[max(0, len(asked)-rest):], c.ID()) }
	ready := only(due, rested)
	if n := len(ready); n < choice && len(fresh) > 0 && begun(standing, now) < session.New {
		ready = append(ready, fresh[0])
	} else if n < choice && len(due) > 0 {
		ready = append(ready, only(known, rested)...)
	}
	if len(ready) == 0 { // so few that one comes again sooner
		ready = only(due, func(c Card) bool { return len(due) == 1 || c.ID() != asked[len(asked)-1] })
	}
	if len(ready) == 0 {
		return Card{}, false
	}
	r := rand.New(rand.NewPCG(uint64(chance(session.By, "")*math.MaxUint32), uint64(len(asked))))
	n := min(len(ready), choice)
	for n < len(ready) && order[ready[n]] <= order[ready[0]]+alike {
		n++
	}
	return ready[r.IntN(n)], true
}

// sorted parts a deck into what is due, the least known first; what was asked today and is not due;
// and what is new, in somebody's own order: roughly the deck's. order is what the first and the last are sorted by.
func sorted(s *fsrs.Scheduler, deck []Card, standing map[string]Standing, now time.Time, session Session) (
	due, known, fresh []Card, order map[Card]float64,
) {
	order = map[Card]float64{}
	for i, c := range deck {
		st, asked := standing[c.ID()]
		today := days(st.Last, now) == 0
		switch {
		case !asked:
			order[c], fresh = float64(i)+shuffled*chance(session.By, c.ID()), append(fresh, c)
		case !st.Due.After(now) || session.TillSure && today && st.Run < twice:
			order[c], due = s.Recall(st.Memory, days(st.Last, now)), append(due, c)
			if st.Run == 0 {
				order[c] = math.Min(order[c], 0.5)
			}
		case today:
			known = append(known, c)
		}
	}
	by := func(a, b Card) int { return cmp.Compare(order[a], order[b]) }
	slices.SortStableFunc(due, by)
	slices.SortStableFunc(fresh, by)
	return due, known, fresh, order
}

func only(cards []Card, which func(Card) bool) (out []Card) {
	for _, c := range cards {
		if which(c) {
			out = append(out, c)
		}
	}
	return out
}

// chance is a number from 0 to 1 that follows from somebody's name and a card.
func chance(by, card string) float64 {
	h := fnv.New64a()
	h.Write([]byte(by + "\n" + card))
	return rand.New(rand.NewPCG(h.Sum64(), 16)).Float64()
}

// begun counts the cards that were asked for the first time today.
func begun(standing map[string]Standing, now time.Time) (n int) {
	for _, st := range standing {
		if days(st.First, now) == 0 {
			n++
		}
	}
	return n
}
