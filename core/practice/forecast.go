package practice

import (
	"cmp"
	"slices"
	"time"

	"palethicket/core/practice/fsrs"
)

// Foreseen is what is believed of a card: how likely it is known now, and when it is due.
type Foreseen struct {
	Card   string
	Recall float64
	Due    time.Time
}

// Forecast says of every card that was asked how likely it is known now, what is forgotten next
// first; and how many are due on each of the days to come, today's and those overdue on the first.
func Forecast(s *fsrs.Scheduler, standing map[string]Standing, now time.Time, ahead int) (cards []Foreseen, due []int) {
	due = make([]int, ahead)
	for id, st := range standing {
		recall := s.Recall(st.Memory, days(st.Last, now))
		if st.Run == 0 { // it was not known when it was asked last
			recall = 0
		}
		cards = append(cards, Foreseen{id, recall, st.Due})
		if day := int(days(now, st.Due)); day < ahead {
			due[day]++
		}
	}
	slices.SortFunc(cards, func(a, b Foreseen) int { return cmp.Or(cmp.Compare(a.Recall, b.Recall), cmp.Compare(a.Card, b.Card)) })
	return cards, due
}

// NotBefore is when an answer counts as given: now, or, where the clock was set back, just after the
// answer before, so that nothing is due in the past twice.
func NotBefore(now, last time.Time) time.Time {
	if now.After(last) {
		return now
	}
	return last.Add(time.Second)
}
