package book

import (
	"context"
	"fmt"
	"slices"
	"time"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geojson"

	"palethicket/core/day/season"
	"palethicket/core/day/weather"
	"palethicket/core/stand/revisit"
	"palethicket/store"
)

// warmth is how far spring is, by a station.
type warmth struct {
	season.Ahead
	year int
}

// Warmth takes in a station's temperatures since 1 January: how far spring is ahead of the
// calendar shifts the days of this year's buds, flowers and leaves.
func (b *Book) Warmth(hours []season.Hour) error {
	sum, last, missing := season.DegreeDays(hours, b.now().Location())
	if last.IsZero() || last.Month() > time.June { // next spring's warmth nobody knows
		b.spring.Store(nil)
		return nil
	}
	months, err := b.calendar.Months(b.Flora().HomeRegion())
	if err != nil {
		b.spring.Store(nil)
		return fmt.Errorf("comparing the warmth so far: %w", err)
	}
	b.spring.Store(&warmth{season.NewNormal(months).Ahead(sum, last, missing), last.Year()})
	return nil
}

// Season says how far spring is, by the calendar or by a station.
type Season struct {
	Says  string `json:"says"`
	Days  int    `json:"days_ahead" doc:"Less than 0: late"`
	Known bool   `json:"known" doc:"By a station's warmth; else by the calendar alone"`
}

func (b *Book) season() Season {
	if w := b.spring.Load(); w != nil {
		return Season{w.Says, w.Days, true}
	}
	return Season{Says: "Days are those of the flora's calendar, moved by Hopkins's law to where each tree stands: to a week or so."}
}

// comeBack says when a tree is worth coming back to from today on.
func (b *Book) comeBack(l *store.Line) []Event { return b.comeBackOn(l, b.today()) }

// comeBackOn says when a tree is worth coming back to from a day on.
func (b *Book) comeBackOn(l *store.Line, day string) []Event {
	site := revisit.Site{Region: l.Region}
	if l.Lon != nil && l.Lat != nil {
		site.Position = &[2]float64{*l.Lon, *l.Lat}
	}
	if w := b.spring.Load(); w != nil {
		site.Ahead, site.AheadIn = w.Days, w.year
	}
	from, err := time.Parse(time.DateOnly, day)
	if err != nil {
		from = b.now() // it is refused where it was asked
	}
	return each(b.calendar.Events(site, l.Candidates, from), func(e revisit.Event) Event {
		return Event{e.ID, e.Words, e.From, e.To, each(e.Windows, func(w revisit.Window) Window { return Window(w) }), e.Separate}
	})
}

// When a tree's winter marks are said to go soon, and how far ahead something is due, in days.
const (
	marksGoSoon = 21
	dueSoon     = 7
)

// marksLeft is how many days are left from a day until the buds of the first of a tree's candidates
// swell, 0 while they do. Those whose buds swelled before are past.
func marksLeft(back []Event, day string) (left int, ok bool) {
	now, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return 0, false
	}
	for _, e := range back {
		for _, w := range e.Windows {
			from, err := time.Parse(time.DateOnly, w.From)
			if e.ID != "swell" || err != nil || w.To < day {
				continue
			}
			if n := max(0, int(from.Sub(now).Hours()/24)); !ok || n < left {
				left, ok = n, true
			}
		}
	}
	return left, ok
}

// opens says whether it is a candidate's time for an event on one of some days.
func opens(e *Event, first, last string) bool {
	return slices.ContainsFunc(e.Windows, func(w Window) bool { return w.From <= last && w.To >= first })
}

// days is a number of days in words.
func days(n int) string {
	if n == 1 {
		return "a day"
	}
	return fmt.Sprintf("%d days", n)
}

// race says what of a tree's spring is near: what is due within a week, and when its winter
// marks go.
func race(back []Event, day string) (due string, soon bool) {
	now, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return "", false
	}
	week := now.AddDate(0, 0, dueSoon).Format(time.DateOnly)
	for _, e := range back {
		if e.ID != "swell" && opens(&e, day, week) {
			return "Due this week: " + e.Words, true
		}
	}
	left, ok := marksLeft(back, day)
	switch {
	case !ok || left > marksGoSoon:
		return "", false
	case left > 0:
		return "Buds swell in " + days(left) + ": winter's marks go", left <= dueSoon
	}
	return "Buds are swelling: winter's marks go now", true
}

// Outside is what the weather suggests for a visit. Nothing of it is set by itself.
type Outside struct {
	Words    string          `json:"words" doc:"What the station says; empty: there is none, or it says nothing"`
	Presets  []OutsidePreset `json:"presets"`
	Cautions []string        `json:"cautions"`
	Season   Season          `json:"season"`
}

// OutsidePreset is something of a visit that the weather suggests.
type OutsidePreset struct {
	Field string `json:"field" enum:"snow,light"`
	Value string `json:"value"`
	Words string `json:"words"`
	Why   string `json:"why"`
}

// Outside says what the weather suggests, at a place or in the middle of the tracts.
func (b *Book) Outside(ctx context.Context, at *[2]float64, words string, now weather.Now) (*Outside, error) {
	out := &Outside{Words: words, Presets: []OutsidePreset{}, Cautions: []string{}, Season: b.season()}
	if at == nil {
		middle, err := b.middle(ctx)
		if err != nil {
			return nil, err
		}
		at = middle
	}
	if at == nil {
		return out, nil // nobody knows where the sun stands there
	}
	presets, cautions := weather.Of(now, at[1], at[0], b.now())
	for _, p := range presets {
		out.Presets = append(out.Presets, OutsidePreset(p))
	}
	for _, c := range cautions {
		out.Cautions = append(out.Cautions, string(c))
	}
	return out, nil
}

// middle is that of the tracts with a boundary, or nil.
func (b *Book) middle(ctx context.Context) (*[2]float64, error) {
	tracts, err := b.store.Tracts(ctx)
	if err != nil {
		return nil, err
	}
	var bound *orb.Bound
	for _, t := range tracts {
		if t.Boundary == nil {
			continue
		}
		g, err := geojson.UnmarshalGeometry([]byte(*t.Boundary))
		if err != nil {
			continue // boundaries are checked when they are put in
		}
		in := g.Geometry().Bound()
		if bound != nil {
			in = bound.Union(in)
		}
		bound = &in
	}
	if bound == nil {
		return nil, nil
	}
	c := bound.Center()
	return &[2]float64{c[0], c[1]}, nil
}
