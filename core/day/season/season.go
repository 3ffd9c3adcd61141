// Package season says how far spring is ahead or late of the calendar, by the warmth that
// there has been: growing degree days over 5 °C from 1 January, as a day's mean of its
// highest and lowest temperature (McMaster & Wilhelm 1997, Agricultural and Forest
// Meteorology 87:291, their method 1).
package season

import (
	"fmt"
	"math"
	"slices"
	"time"
)

// Base is the temperature over which buds grow, in °C.
const Base = 5.0

// Hour is one temperature and when it was so.
type Hour struct {
	At   time.Time
	Temp float64 // °C
}

// wholeDay is how many hours of a day must be known for its highest and lowest to count.
const wholeDay = 18

// DegreeDays sums a year's warmth from 1 January to the end of the last whole day, in °C d,
// by the clock of a place. Days that are not known whole are taken as the mean of the known
// days beside them; missing says how many those were.
func DegreeDays(hours []Hour, zone *time.Location) (sum float64, last time.Time, missing int) {
	type day struct {
		low, high float64
		hours     map[int]bool
	}
	days := map[time.Time]*day{}
	for _, h := range hours {
		t := h.At.In(zone)
		key := time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC)
		d := days[key]
		if d == nil {
			d = &day{math.Inf(1), math.Inf(-1), map[int]bool{}}
			days[key] = d
		}
		d.low, d.high = min(d.low, h.Temp), max(d.high, h.Temp)
		d.hours[t.Hour()] = true
	}
	var known []time.Time
	for key, d := range days {
		if len(d.hours) >= wholeDay {
			known = append(known, key)
		}
	}
	if len(known) == 0 {
		return 0, last, 0
	}
	slices.SortFunc(known, time.Time.Compare)
	warmth := func(key time.Time) float64 { return max(0, (days[key].low+days[key].high)/2-Base) }
	last = known[len(known)-1]
	before := time.Date(last.Year()-1, 12, 31, 0, 0, 0, 0, time.UTC)
	for i, key := range known {
		if key.Year() != last.Year() {
			continue
		}
		gap := int(key.Sub(before).Hours()/24) - 1
		missing += gap
		beside := warmth(key)
		if i > 0 && known[i-1].Equal(before) {
			beside = (beside + warmth(known[i-1])) / 2
		}
		sum += warmth(key) + float64(gap)*beside
		before = key
	}
	return sum, last, missing
}

// Normal is the usual course of warmth at a place.
type Normal struct {
	upTo [366]float64 // degree days from 1 January to the end of each day
}

// daySpread is how much days' means differ from their month's, as a standard deviation in °C
// (from memory of such series).
const daySpread = 5.0

// NewNormal makes it from the usual mean temperature of each month, in °C, which stands for
// its middle. A day's usual warmth is that of a normal distribution about the mean between them.
func NewNormal(months [12]float64) *Normal {
	n := &Normal{}
	sum := 0.0
	for d := range n.upTo {
		at := float64(d)/30.4375 - 0.5 // in months from the middle of January
		k := int(math.Floor(at))
		part := at - float64(k)
		mean := months[(k+12)%12]*(1-part) + months[(k+1)%12]*part
		z := (mean - Base) / daySpread
		sum += (mean-Base)*0.5*math.Erfc(-z/math.Sqrt2) + daySpread*math.Exp(-z*z/2)/math.Sqrt(2*math.Pi)
		n.upTo[d] = sum
	}
	return n
}

// By is the usual sum at the end of a day of the year, from 1.
func (n *Normal) By(yearDay int) float64 { return n.upTo[max(1, min(yearDay, len(n.upTo)))-1] }

// Ahead is how spring stands beside the calendar.
type Ahead struct {
	Days  int     // ahead; less than 0: late
	Sum   float64 // °C d so far
	Usual float64 // by this day
	Says  string
}

// What warmth is too little, or too much, to say anything by, and how far spring can be off.
const (
	tooLittle = 15.0 // °C d
	leafedOut = 600.0
	mostAhead = 35
)

// Ahead compares the warmth so far, up to a day, with the usual: spring is as far as the usual
// sum is on another day. Before there is any to speak of, it says so.
func (n *Normal) Ahead(sum float64, last time.Time, missing int) (a Ahead) {
	a = Ahead{Sum: sum, Usual: n.By(last.YearDay())}
	if missing > 0 {
		defer func() {
			a.Says += fmt.Sprintf(" %d days are not known and were guessed from those beside them.", missing)
		}()
	}
	switch {
	case sum < tooLittle && a.Usual < tooLittle:
		a.Says = "It was too cold so far for the buds to be ahead or late."
		return a
	case sum > leafedOut:
		a.Says = "The leaves are out: winter's marks wait for autumn."
		return a
	}
	there := slices.IndexFunc(n.upTo[:], func(s float64) bool { return s >= sum }) + 1
	a.Days = max(-mostAhead, min(mostAhead, there-last.YearDay()))
	word := "ahead of"
	if a.Days < 0 {
		word = "behind"
	}
	a.Says = fmt.Sprintf("By the station's warmth (%.0f °C d over 5 °C since 1 January; usual %.0f) spring is %d days %s the calendar.",
		sum, a.Usual, max(a.Days, -a.Days), word)
	if a.Days == 0 {
		a.Says = fmt.Sprintf("By the station's warmth (%.0f °C d over 5 °C since 1 January) spring is as the calendar has it.", sum)
	}
	return a
}
