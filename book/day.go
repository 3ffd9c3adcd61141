package book

import (
	"context"
	"errors"
	"fmt"
	"time"

	"palethicket/core/day/light"
	"palethicket/core/day/weather"
)

// DayAsked is a day to be planned.
type DayAsked struct {
	Query
	Date  string      // as 2026-12-01; empty: today
	Start string      // as 08:30, by the book's clock
	End   string      // empty: half an hour before dusk
	From  *[2]float64 // longitude and latitude of where it begins; nil: the middle of the trees
	To    *[2]float64 // of where it ends; nil: where it begins
	Snow  string      // none, patchy or deep: how it slows; empty: as the day's last visit says
	Now   weather.Now // what a station says, for a day that is today
	Crews int         // that share the work; 0: one
	Pin   []string    // ids of trees that are to be visited
	Drop  []string    // ids of trees that are not
	Order []string    // ids in the order that they are to be visited in: nothing is then chosen; one crew
}

// DayPlan is a day as it could be.
type DayPlan struct {
	Date  string     `json:"date"`
	Start time.Time  `json:"start"`
	End   time.Time  `json:"end"`
	Light DayLight   `json:"light"`
	From  [2]float64 `json:"from" doc:"Longitude and latitude of where it begins"`
	To    [2]float64 `json:"to" doc:"Of where it ends"`
	Snow  string     `json:"snow" doc:"What it reckons with"`
	Gates []DayGate  `json:"gates" doc:"Where one can come in"`
	Crews []CrewDay  `json:"crews"`
	Open  int        `json:"open" doc:"Trees that it chose from"`
	Says  []string   `json:"says" doc:"What is to be known of it"`
}

// DayLight is when it is light there; what does not happen is null.
type DayLight struct {
	Dawn    *time.Time `json:"dawn"`
	Sunrise *time.Time `json:"sunrise"`
	Sunset  *time.Time `json:"sunset"`
	Dusk    *time.Time `json:"dusk"`
	Says    string     `json:"says"`
}

// DayGate is where one can come into a tract.
type DayGate struct {
	Name string     `json:"name"`
	At   [2]float64 `json:"at"`
}

// CrewDay is the day of one crew.
type CrewDay struct {
	Stops   []DayStop `json:"stops"`
	Worth   float64   `json:"worth_bits"`
	Back    time.Time `json:"back"`
	WayBack string    `json:"way_back"`
}

// DayStop is a tree of the day.
type DayStop struct {
	Unsettled
	N       int       `json:"n"`
	Arrive  time.Time `json:"arrive"`
	Leave   time.Time `json:"leave"`
	Way     string    `json:"way" doc:"From the stop before, in a straight line, or to where a stream is crossed"`
	Metres  float64   `json:"metres"`
	Paces   int       `json:"paces" doc:"Of 0.8 m"`
	Worth   float64   `json:"worth_bits" doc:"What a visit is counted as"`
	Pinned  bool      `json:"pinned"`
	Over    bool      `json:"over" doc:"A stream is crossed or gone round on the way: the way says where to first"`
	Because string    `json:"because" doc:"Why it is in the day"`
}

// How a day is reckoned (common practice).
const (
	dayMargin   = 30 * time.Minute // before dusk
	settlingIn  = 2.0              // minutes at each tree, beside looking
	looksThere  = 3                // of the best one's length, that a visit takes
	writingName = 1.0              // bits that a name to be written down counts for
	paceLong    = 0.8              // m
	dayTrees    = 400              // trees that are chosen from, those worth most first
	confirming  = 1.0              // bits that seeing a winter's name in leaf or flower counts for
	lastChance  = 1.5              // how much more a look counts that the buds will take away
	dayRounds   = 150
)

// ErrNoPlaces is given for a day of trees without a position.
var ErrNoPlaces = errors.New("none of these open trees has a position: enter some first, or choose others")

// PlanDay plans a day: which open trees to visit, in which order, so that most is learnt before dark. The same
// book and question give the same plan.
func (b *Book) PlanDay(ctx context.Context, a *DayAsked) (*DayPlan, error) {
	trees, err := b.dayTrees(ctx, a)
	if err != nil {
		return nil, err
	}
	ground, err := b.land(ctx)
	if err != nil {
		return nil, err
	}
	p := &DayPlan{Crews: []CrewDay{}, Says: []string{}, Open: len(trees), Gates: []DayGate{}}
	for _, g := range ground.Gates {
		p.Gates = append(p.Gates, DayGate{g.Name, g.At})
	}
	if a.From != nil {
		p.From = *a.From
	} else {
		p.From = middleOf(trees)
	}
	if p.To = p.From; a.To != nil {
		p.To = *a.To
	}
	if err := b.dayTimes(a, p); err != nil {
		return nil, err
	}
	if err := b.dayWeather(ctx, a, p, trees); err != nil {
		return nil, err
	}
	if ground.Contours == 0 {
		p.Says = append(p.Says, "There are no contours: ways are reckoned as level.")
	}
	if len(a.Order) > 0 {
		crew, err := ordered(a, p, trees, ground)
		if err != nil {
			return nil, err
		}
		p.Crews = append(p.Crews, *crew)
		return p, nil
	}
	for range max(1, a.Crews) {
		crew, rest, err := crewDay(ctx, a, p, trees, ground)
		if err != nil {
			return nil, err
		}
		p.Crews, trees = append(p.Crews, *crew), rest
	}
	return p, nil
}

func middleOf(trees []dayTree) (at [2]float64) {
	for _, t := range trees {
		at[0] += *t.Lon / float64(len(trees))
		at[1] += *t.Lat / float64(len(trees))
	}
	return at
}

// dayTimes finds when the day begins and ends, and when it is light.
func (b *Book) dayTimes(a *DayAsked, p *DayPlan) error {
	now := b.now()
	day := now
	if a.Date != "" {
		var err error
		if day, err = time.ParseInLocation(time.DateOnly, a.Date, now.Location()); err != nil {
			return &FieldError{"date", fmt.Sprintf("%q is no day; write it as 2026-12-01", a.Date)}
		}
	}
	p.Date = day.Format(time.DateOnly)
	l, err := light.Of(p.From[1], p.From[0], day)
	if err != nil {
		return &FieldError{"from", err.Error()}
	}
	p.Light = DayLight{happens(l.Dawn), happens(l.Sunrise), happens(l.Sunset), happens(l.Dusk), l.Says}
	at := func(field, text string) (time.Time, error) {
		t, err := time.ParseInLocation("2006-01-02 15:04", p.Date+" "+text, now.Location())
		if err != nil {
			return t, &FieldError{field, fmt.Sprintf("%q is no time; write it as 08:30", text)}
		}
		return t, nil
	}
	if p.Start, err = at("start", a.Start); err != nil {
		return err
	}
	last := l.Dusk.Add(-dayMargin)
	switch {
	case a.End != "":
		if p.End, err = at("end", a.End); err != nil {
			return err
		}
		if !l.Dusk.IsZero() && p.End.After(last) {
			p.End = last
			p.Says = append(p.Says, "It ends half an hour before dusk, earlier than was asked for.")
		}
	case l.Dusk.IsZero():
		return &FieldError{"end", "say when the day ends: " + l.Says}
	default:
		p.End = last
	}
	if !p.End.After(p.Start) {
		return &FieldError{"start", fmt.Sprintf("the day would end at %s, before it begins", p.End.In(now.Location()).Format("15:04"))}
	}
	if !l.Sunrise.IsZero() && p.Start.Before(l.Sunrise) {
		p.Says = append(p.Says, "It begins before sunrise: colours are not to be trusted till then.")
	}
	return nil
}

func happens(t time.Time) *time.Time {
	if t.IsZero() {
		return nil
	}
	return &t
}
